# frozen_string_literal: true

module Server
  # Carts that were turned away, as the contract shows them.
  module TurnedAwayDocuments
    # @param rows [Array<Records::TurnedAway>]
    # @return [Array<Hash>] TurnedAway of the contract, each
    def self.all(rows)
      names = Records::Product.where(sku: rows.flat_map(&:goods).uniq).pluck(:sku, :name).to_h
      money = Records::Store.current.money
      rows.map { |row| one(row, names, money) }
    end

    def self.one(row, names, money)
      goods = row.goods.map { |sku| { sku: sku, name: names[sku] } }
      { status: row.status, country: row.country, region: row.region, postcode: row.postcode, zone: row.zone,
        causes: row.causes, goods: goods, times: row.times, worth: GateMile::Money.new(row.worth, money).to_s,
        first_at: row.first_at.utc.iso8601, last_at: row.last_at.utc.iso8601, cart: row.cart }
    end
    private_class_method :one
  end
end
