# frozen_string_literal: true

# Rates inside a part of their zone and with a cost; methods that deliver or are collected; the merchant's words.
class Rates < ActiveRecord::Migration[7.2]
  def change
    add_column :rates, :areas, :json
    add_column :rates, :cost, :json
    add_column :shipping_methods, :kind, :string, null: false, default: "delivery"
    add_column :shipping_methods, :address, :string
    add_column :shipping_methods, :hours, :string
    add_check_constraint :shipping_methods, "kind IN ('delivery', 'collection')", name: "shipping_methods_kind"
    add_column :stores, :parcels, :json
    add_column :stores, :zero_word, :string
    add_column :stores, :nothing_text, :string
    add_column :zones, :nothing_text, :string
    create_table :sleeping_findings, id: :string do |t|
      t.check_constraint "length(id) BETWEEN 1 AND 40", name: "sleeping_findings_id"
    end
  end
end
