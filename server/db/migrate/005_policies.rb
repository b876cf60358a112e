# frozen_string_literal: true

# Customer groups, coupons, offers and rules; what goods cost the merchant; which shops may ask for mileposts.
class Policies < ActiveRecord::Migration[7.2]
  NAME = "length(trim(name)) BETWEEN 1 AND %s"

  def up
    registers
    offers
    rules
    # By itself: a check added afterwards would make the table anew, without its row numbers and triggers.
    execute "ALTER TABLE products ADD COLUMN cost_minor INTEGER CHECK (cost_minor IS NULL OR cost_minor >= 0)"
    add_column :stores, :storefront, :json
  end

  def down = raise(ActiveRecord::IrreversibleMigration)

  private

  def registers
    create_table :customer_groups, id: :string do |t|
      t.string :name, null: false
      common(t)
      t.check_constraint format(NAME, 60), name: "customer_groups_name"
      t.index "lower(name)", unique: true, name: "customer_groups_by_name"
    end
    create_table :coupons, id: :string do |t|
      t.string :code, null: false
      t.string :note, :starts, :ends
      t.boolean :active, null: false, default: true
      common(t)
      t.check_constraint "length(trim(code)) BETWEEN 1 AND 60", name: "coupons_code"
      t.index "lower(code)", unique: true, name: "coupons_by_code"
    end
  end

  def offers
    create_table :offers, id: :string do |t|
      t.string :name, null: false
      t.string :label, :promotions, :starts, :ends
      t.json :threshold, :zones, :methods, :groups, :coupons, :blocking, :paying, :milepost
      t.json :effect, null: false
      t.integer :first
      t.boolean :active, :paying_count, null: false, default: true
      t.boolean :own_prices, :hides_paid, :combines, null: false, default: false
      common(t)
      t.check_constraint format(NAME, 120), name: "offers_name"
      t.check_constraint "promotions IS NULL OR promotions IN ('with', 'without')", name: "offers_promotions"
      t.check_constraint "first IS NULL OR first > 0", name: "offers_first"
    end
  end

  def rules
    create_table :rules, id: :string do |t|
      t.string :name, null: false
      t.boolean :active, null: false, default: true
      t.json :when, :then, null: false
      common(t)
      t.check_constraint format(NAME, 120), name: "rules_name"
    end
  end

  def common(table)
    table.integer :position, null: false, default: 0
    table.integer :lock_version, null: false, default: 0
  end
end
