# frozen_string_literal: true

# Where what the audit log tells of came from: the network of the address, and not the address itself.
class WhereFrom < ActiveRecord::Migration[7.2]
  def change
    add_column :audit_entries, :source, :string
  end
end
