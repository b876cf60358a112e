# frozen_string_literal: true

# What checkouts have asked for, counted: nothing in it says who it was.
class Asked < ActiveRecord::Migration[7.2]
  def change
    # Quotes of an hour (its beginning, in UTC) by what came of them.
    create_table :quote_hours do |t|
      t.datetime :hour, null: false
      t.string :outcome, null: false
      t.integer :times, :milliseconds, :slowest, null: false
      t.index %i[hour outcome], unique: true
    end
    # Carts of a day (in UTC) that could get nothing, those alike together: worth in minor units, cart the smallest of
    # them.
    create_table :turned_away do |t|
      t.date :day, null: false
      t.string :digest, null: false
      t.string :status, null: false
      t.string :country, :region, :postcode, :zone
      t.json :causes, :goods, :cart, null: false
      t.integer :times, :worth, null: false
      t.datetime :first_at, :last_at, null: false
      t.index %i[day digest], unique: true
    end
    # How often a method was there to choose, by its rate.
    create_table :offered_methods do |t|
      t.date :day, null: false
      t.string :rate, null: false
      t.integer :times, null: false
      t.index %i[day rate], unique: true
    end
  end
end
