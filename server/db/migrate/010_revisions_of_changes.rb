# frozen_string_literal: true

# Which revision of the setup a change made, so that what it did to a cart can be told; nil for those before this.
class RevisionsOfChanges < ActiveRecord::Migration[7.2]
  def change
    add_column :changes, :revision, :integer
  end
end
