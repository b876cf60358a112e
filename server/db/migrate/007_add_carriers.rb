# frozen_string_literal: true

# Carriers that are asked for prices, and rates that ask them.
class AddCarriers < ActiveRecord::Migration[7.2]
  def change
    create_table :carriers, id: :string do |t|
      t.string :name, null: false
      t.string :address, :account
      t.text :secret
      t.json :services, null: false, default: []
      t.boolean :active, null: false, default: true
      t.integer :position, null: false, default: 0
      t.integer :lock_version, null: false, default: 0
      t.check_constraint "length(trim(name)) BETWEEN 1 AND 60", name: "carriers_name"
      t.index "lower(name)", unique: true, name: "carriers_by_name"
    end
    add_column :rates, :live, :json
  end
end
