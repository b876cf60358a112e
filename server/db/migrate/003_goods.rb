# frozen_string_literal: true

# Variants, shipping classes, tax classes, treatments and what they sit on; the index that goods are searched by.
class Goods < ActiveRecord::Migration[7.2]
  NAME = "length(trim(name)) BETWEEN 1 AND 120"
  ACTIONS = "action IN ('create', 'update', 'delete', 'reorder', 'bulk', 'import')"

  def up
    registers
    treatments
    products
    targets
    search
    add_column :stores, :basis, :json
    remove_check_constraint :changes, name: "changes_action"
    add_check_constraint :changes, ACTIONS, name: "changes_action"
  end

  def down = raise(ActiveRecord::IrreversibleMigration)

  private

  def registers
    create_table :shipping_classes, id: :string do |t|
      t.string :name, null: false
      t.string :description
      common(t)
      t.check_constraint "length(trim(name)) BETWEEN 1 AND 60", name: "shipping_classes_name"
      t.index "lower(name)", unique: true, name: "shipping_classes_by_name"
    end
    create_table :tax_classes, id: :string do |t|
      t.string :name, :rate, null: false
      common(t)
      t.check_constraint "length(trim(name)) BETWEEN 1 AND 60", name: "tax_classes_name"
      t.index "lower(name)", unique: true, name: "tax_classes_by_name"
    end
  end

  def treatments
    create_table :treatments, id: :string do |t|
      t.string :name, null: false
      t.boolean :active, null: false, default: true
      t.json :zones, :methods, :price, :travel
      common(t)
      t.check_constraint NAME, name: "treatments_name"
    end
  end

  # A variant is a row like its product, and names it. Products stand in the order of `family`; a variant has its
  # product's, and a place behind it.
  def products
    change_table :products, bulk: true do |t|
      t.string :parent_id, :shipping_class_id, :tax_class_id
      t.integer :family, null: false, default: 0
      t.integer :weight_ng, limit: 8
      t.boolean :hazardous, null: false, default: false
      t.json :tags, null: false, default: []
      t.change_null :price_minor, true
    end
    add_foreign_key :products, :products, column: :parent_id
    add_foreign_key :products, :shipping_classes
    add_foreign_key :products, :tax_classes
    add_check_constraint :products, "price_minor IS NOT NULL OR parent_id IS NOT NULL", name: "products_priced"
    execute "UPDATE products SET family = position, position = 0"
    add_index :products, %i[family position]
    add_index :products, :parent_id
    add_index :products, :shipping_class_id
  end

  def targets
    create_table :treatment_targets, id: :string do |t|
      t.references :treatment, type: :string, null: false, foreign_key: true, index: false
      t.references :product, type: :string, foreign_key: true
      t.references :shipping_class, type: :string, foreign_key: true
      t.check_constraint "(product_id IS NULL) <> (shipping_class_id IS NULL)", name: "treatment_targets_one"
      t.index "treatment_id, ifnull(product_id, shipping_class_id)", unique: true, name: "treatment_targets_once"
    end
  end

  # Rows of the index are found by the products' own row numbers, which stay as they are as long as nobody runs VACUUM.
  def search
    execute "CREATE VIRTUAL TABLE goods_index USING fts5(name, sku, tokenize = 'trigram')"
    execute "INSERT INTO goods_index (rowid, name, sku) SELECT rowid, name, sku FROM products"
    put = "INSERT INTO goods_index (rowid, name, sku) VALUES (new.rowid, new.name, new.sku);"
    drop = "DELETE FROM goods_index WHERE rowid = old.rowid;"
    execute "CREATE TRIGGER goods_indexed AFTER INSERT ON products BEGIN #{put} END"
    execute "CREATE TRIGGER goods_unindexed AFTER DELETE ON products BEGIN #{drop} END"
    execute "CREATE TRIGGER goods_reindexed AFTER UPDATE OF name, sku ON products BEGIN #{drop} #{put} END"
  end

  def common(table)
    table.integer :position, null: false, default: 0
    table.integer :lock_version, null: false, default: 0
  end
end
