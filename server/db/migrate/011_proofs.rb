# frozen_string_literal: true

# Kept carts with what they are to get.
class Proofs < ActiveRecord::Migration[7.2]
  def change
    create_table :proofs, id: :string do |t|
      t.string :name, null: false
      t.text :note
      t.json :tags, :weekdays, :recorded
      t.json :cart, :expects, null: false
      t.string :at, :time
      t.integer :position, null: false, default: 0
      t.integer :lock_version, null: false, default: 0
      t.check_constraint "length(trim(name)) BETWEEN 1 AND 120", name: "proofs_name"
      t.index "lower(name)", unique: true, name: "proofs_by_name"
      t.index :position
    end
  end
end
