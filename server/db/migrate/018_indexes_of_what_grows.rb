# frozen_string_literal: true

# What is asked for in every view of the day, and whether a long change is under way, without reading a whole table.
class IndexesOfWhatGrows < ActiveRecord::Migration[7.2]
  def change
    add_index :turned_away, :last_at
    add_index :changes, :id, where: "state IS NOT NULL", name: "index_changes_under_way"
  end
end
