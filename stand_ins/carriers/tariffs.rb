# frozen_string_literal: true

# What the three made-up carriers take: tariffs by distance band and billable weight, with limits, surcharges and
# refusals. Amounts are pence.
module Tariffs
  HOME = %w[GB].freeze
  NEAR = %w[IE IM JE GG FR BE NL LU DE DK].freeze
  FAR = %w[AT CH CZ ES FI GR IT NO PL PT SE HU].freeze
  REMOTE = /\A(IV|HS|KW|ZE|BT|KA2[78]|PA[2-8]\d|PH[1-5]\d)/
  REFUSED = /\A(ZE3|KW17)/

  # base and each: pence by band, for the first kilogram and every started one more; divisor: cm³ for a kilogram; most:
  # grams of one parcel; longest and girth: millimetres (longest side, and longest side plus girth); air: whether
  # hazardous goods are refused; boxes: whether PO boxes are served.
  Service = Struct.new(:code, :name, :base, :each, :divisor, :most, :longest, :girth, :air, :boxes, :days,
                       keyword_init: true)

  CARRIERS = {
    "petrel" => ["Petrel Post", 0, [
      Service.new(code: "LETTER", name: "Flat letter", base: { home: 165, near: 395, far: 460, world: 540 }, each: nil,
                  divisor: nil, most: 750, longest: 353, girth: 900, air: true, boxes: true,
                  days: { home: [2, 3], near: [4, 6], far: [5, 8], world: [6, 12] }),
      Service.new(code: "PARCEL-48", name: "Parcel, two days", divisor: nil, most: 20_000, longest: 1500, girth: 3000,
                  base: { home: 345, near: 980, far: 1320, world: 2150 }, air: false, boxes: true,
                  each: { home: 65, near: 190, far: 260, world: 640 },
                  days: { home: [2, 3], near: [4, 6], far: [5, 8], world: [8, 14] })
    ]],
    "gannet" => ["Gannet Express", 12, [
      Service.new(code: "NEXT", name: "Next day", divisor: 5000, most: 30_000, longest: 1200, girth: 2500, air: true,
                  boxes: false, base: { home: 690 }, each: { home: 85 }, days: { home: [1, 1] }),
      Service.new(code: "AIR", name: "By air", divisor: 5000, most: 31_500, longest: 1200, girth: 2500, air: true,
                  boxes: false, base: { near: 1650, far: 2180, world: 2790 },
                  each: { near: 330, far: 470, world: 880 }, days: { near: [1, 2], far: [2, 3], world: [3, 5] })
    ]],
    "fulmar" => ["Fulmar Freight", 8, [
      Service.new(code: "ROAD", name: "By road", divisor: 4000, most: 70_000, longest: 2700, girth: 4200, air: false,
                  boxes: false, base: { home: 890, near: 1490, far: 2390 }, each: { home: 42, near: 88, far: 130 },
                  days: { home: [2, 4], near: [4, 7], far: [5, 9] })
    ]]
  }.freeze
  REMOTE_SURCHARGE = 380
  # Agreed prices: percent off by account.
  ACCOUNTS = { "TARROW" => 10 }.freeze

  class << self
    # @param carrier [String] a key of CARRIERS
    # @param asked [Hash] a request of the carrier contract
    # @param account [String, nil]
    # @return [Array<Hash>] answers, one for each service that was asked for
    def quote(carrier, asked, account)
      _, fuel, services = CARRIERS.fetch(carrier)
      asked.fetch("services").map do |code|
        service = services.find { |one| one.code == code }
        refusal = service ? refusal(service, asked) : "no such service"
        next { "service" => code, "status" => "refused", "reason" => refusal } if refusal

        priced(service, asked, fuel, ACCOUNTS.fetch(account.to_s, 0))
      end
    end

    private

    def band(country)
      return :home if HOME.include?(country)
      return :near if NEAR.include?(country)

      FAR.include?(country) ? :far : :world
    end

    def to(asked) = asked.fetch("destination")
    def postcode(asked) = to(asked)["postcode"].to_s.upcase.delete(" ")

    def refusal(service, asked)
      return "not to this country" unless service.base.key?(band(to(asked)["country"]))
      return "not to this postcode" if postcode(asked).match?(REFUSED)
      return "not to PO boxes" if !service.boxes && to(asked)["lines"].to_a.any? do |line|
        line.match?(/\bp\.?\s?o\.?\s*box/i)
      end
      return "no hazardous goods" if service.air && asked["hazardous"]

      asked.fetch("parcels").filter_map { |parcel| limit(service, parcel) }.first
    end

    def limit(service, parcel)
      return "heavier than #{service.most / 1000.0} kg" if parcel["grams"] > service.most

      longest, *others = parcel["millimetres"] || [0, 0, 0]
      return "longer than #{service.longest / 10} cm" if longest > service.longest

      "longer than #{service.girth / 10} cm with its girth" if longest + (2 * others.sum) > service.girth
    end

    def priced(service, asked, fuel, off)
      band = band(to(asked)["country"])
      prices = asked.fetch("parcels").map { |parcel| price(service, parcel, band, asked, fuel, off) }
      { "service" => service.code, "status" => "ok", "currency" => "GBP", "prices" => prices,
        "days" => service.days.fetch(band) }
    end

    # For all parcels of a kind.
    def price(service, parcel, band, asked, fuel, off)
      started = [(billable(service, parcel) / 1000.0).ceil, 1].max - 1
      pence = service.base.fetch(band) + (service.each ? service.each.fetch(band) * started : 0)
      pence += REMOTE_SURCHARGE if band == :home && postcode(asked).match?(REMOTE)
      pence = (pence * (100 + fuel) * (100 - off) / 10_000.0).round
      format("%.2f", pence * parcel.fetch("count", 1) / 100.0)
    end

    def billable(service, parcel)
      return parcel["grams"] if service.divisor.nil? || parcel["millimetres"].nil?

      [parcel["grams"], parcel["millimetres"].inject(:*) / service.divisor].max
    end
  end
end
