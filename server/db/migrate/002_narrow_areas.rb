# frozen_string_literal: true

# Areas of chosen regions, and postcode clauses.
class NarrowAreas < ActiveRecord::Migration[7.2]
  def change
    remove_index :areas, name: "areas_by_place", column: "zone_id, ifnull(country, '')"
    remove_check_constraint :areas, "kind IN ('world', 'country') AND (kind = 'world') = (country IS NULL)",
                            name: "areas_kind"
    add_column :areas, :regions, :json, null: false, default: []
    add_column :areas, :only, :json, null: false, default: []
    add_column :areas, :except, :json, null: false, default: []
    add_check_constraint :areas, "kind IN ('world', 'country', 'regions') AND (kind = 'world') = (country IS NULL) " \
                                 "AND (kind = 'regions') = (regions <> '[]')", name: "areas_kind"
    add_index :areas, :zone_id
  end
end
