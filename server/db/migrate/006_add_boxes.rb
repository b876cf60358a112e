# frozen_string_literal: true

# Boxes to pack into, and how goods may stand in them.
class AddBoxes < ActiveRecord::Migration[7.2]
  def up
    create_table :boxes, id: :string do |t|
      t.string :name, null: false
      t.string :padding, :tare, :up_to, :cost
      t.json :size, null: false
      t.json :outer
      t.boolean :active, null: false, default: true
      t.integer :position, null: false, default: 0
      t.integer :lock_version, null: false, default: 0
      t.check_constraint "length(trim(name)) BETWEEN 1 AND 60", name: "boxes_name"
      t.index "lower(name)", unique: true, name: "boxes_by_name"
    end
    execute "ALTER TABLE products ADD COLUMN packing VARCHAR NOT NULL DEFAULT 'any' " \
            "CHECK (packing IN ('any', 'upright', 'carton'))"
  end

  def down = raise(ActiveRecord::IrreversibleMigration)
end
