# frozen_string_literal: true

# Store, zones with their areas, methods, rates, products, and the history of changes.
class CreateSetup < ActiveRecord::Migration[7.2]
  NAME = "length(trim(name)) BETWEEN 1 AND 120"

  def change
    stores
    zones
    areas
    shipping_methods
    rates
    products
    changes
  end

  private

  def stores
    create_table :stores, id: false do |t|
      t.integer :id, primary_key: true
      t.string :name, null: false
      t.string :country, :currency, :time_zone, :weight_unit, :length_unit, :method_order, null: false
      t.boolean :prices_include_tax, null: false
      t.json :ship_from, :opening_cart
      t.integer :revision, null: false, default: 1
      t.integer :lock_version, null: false, default: 0
      t.check_constraint "id = 1", name: "one_store"
      t.check_constraint NAME, name: "stores_name"
      t.check_constraint "method_order IN ('price', 'merchant')", name: "stores_method_order"
    end
  end

  def zones
    create_table :zones, id: :string do |t|
      t.string :name, null: false
      t.boolean :active, null: false, default: true
      common(t)
      t.check_constraint NAME, name: "zones_name"
      t.index "lower(name)", unique: true, name: "zones_by_name"
    end
  end

  def areas
    create_table :areas, id: :string do |t|
      t.references :zone, type: :string, null: false, foreign_key: true, index: false
      t.string :kind, null: false
      t.string :country
      t.integer :position, null: false
      t.check_constraint "kind IN ('world', 'country') AND (kind = 'world') = (country IS NULL)", name: "areas_kind"
      t.index "zone_id, ifnull(country, '')", unique: true, name: "areas_by_place"
    end
  end

  def shipping_methods
    create_table :shipping_methods, id: :string do |t|
      t.string :code, null: false
      t.string :name, null: false
      t.string :private_name, :promise
      t.boolean :active, null: false, default: true
      common(t)
      t.check_constraint NAME, name: "shipping_methods_name"
      t.check_constraint "length(trim(code)) BETWEEN 1 AND 40", name: "shipping_methods_code"
      t.index "lower(code)", unique: true, name: "shipping_methods_by_code"
    end
  end

  def rates
    create_table :rates, id: :string do |t|
      t.references :zone, type: :string, null: false, foreign_key: true, index: false
      t.references :shipping_method, type: :string, null: false, foreign_key: true
      t.string :name
      t.boolean :active, null: false, default: true
      t.json :plan
      common(t)
      t.index %i[zone_id shipping_method_id], unique: true
    end
  end

  def products
    create_table :products, id: :string do |t|
      t.string :sku, :name, null: false
      t.integer :price_minor, null: false
      t.string :weight, :length, :width, :height
      t.boolean :ships, null: false, default: true
      common(t)
      t.check_constraint NAME, name: "products_name"
      t.check_constraint "price_minor >= 0", name: "products_price"
      t.index "lower(sku)", unique: true, name: "products_by_sku"
    end
  end

  def changes
    create_table :changes do |t|
      t.string :action, :kind, null: false
      t.json :names, :entries, null: false
      t.boolean :undone, null: false, default: false
      t.datetime :at, null: false
      t.check_constraint "action IN ('create', 'update', 'delete', 'reorder')", name: "changes_action"
      t.index %i[undone id]
    end
  end

  def common(table)
    table.integer :position, null: false, default: 0
    table.integer :lock_version, null: false, default: 0
  end
end
