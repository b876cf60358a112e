# frozen_string_literal: true

# Ids of messages of quote servers that have counted.
class TakenNotices < ActiveRecord::Migration[7.2]
  def change
    create_table :taken_notices, id: :string do |t|
      t.datetime :at, null: false, index: true
    end
  end
end
