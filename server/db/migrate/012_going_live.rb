# frozen_string_literal: true

# What checkouts use, and what they have done: none of it is part of the setup or of its history.
class GoingLive < ActiveRecord::Migration[7.2]
  def change
    releases
    keys
    orders
    # How the door is set up; one row.
    create_table :door_settings do |t|
      t.integer :holds_minutes, null: false, default: 15
      t.integer :evidence_days, null: false, default: 730
      t.string :tax_class
      t.integer :lock_version, null: false, default: 0
    end
  end

  private

  def releases
    # Frozen copies of the setup, by their number; book: canonical JSON, deflated; head: the last change that is in it.
    create_table :releases do |t|
      t.binary :book, null: false
      t.string :digest, null: false
      t.integer :revision, :head, null: false
      t.string :by
      t.text :note, :overruled
      t.datetime :made_at, null: false
      t.check_constraint "length(digest) = 64", name: "releases_digest"
    end
    # Which release counts from when on: the last one of them that is due.
    create_table :publications do |t|
      t.references :release, null: false, foreign_key: true, index: true
      t.datetime :due, null: false
      t.string :by
      t.text :note
      t.datetime :made_at, null: false
      t.datetime :withdrawn_at
      t.boolean :told, null: false, default: false
      t.index %i[due id]
    end
  end

  def keys
    create_table :checkout_keys, id: :string do |t|
      t.string :name, null: false
      t.boolean :public, null: false, default: false
      t.string :digest, null: false, index: { unique: true }
      t.string :start, null: false
      t.string :family, null: false, index: true
      t.json :origins, :calls, null: false
      t.integer :pace, null: false
      t.datetime :made_at, null: false
      t.datetime :used_at, :ends_at, :revoked_at
    end
  end

  def orders
    create_table :orders, id: :string, primary_key: :number do |t|
      t.references :release, null: false, foreign_key: true, index: true
      t.string :state, null: false
      t.string :key, :key_name, null: false
      t.string :quote, null: false, index: true
      t.string :method_id, :method_code, :method_name, :zone, null: false
      t.string :price, :currency, null: false
      t.json :cart, :recorded
      t.datetime :quoted_at, :placed_at, null: false
      t.datetime :closed_at
      t.check_constraint "state IN ('placed', 'cancelled', 'returned')", name: "orders_state"
      t.index :placed_at
    end
    # Offers that acted on what was ordered; what was cancelled counts no more.
    create_table :order_offers do |t|
      t.string :order_number, null: false
      t.string :offer, null: false
      t.boolean :counts, null: false, default: true
      t.index %i[order_number offer], unique: true
      t.index %i[offer counts]
      t.foreign_key :orders, column: :order_number, primary_key: :number, on_delete: :cascade
    end
  end
end
