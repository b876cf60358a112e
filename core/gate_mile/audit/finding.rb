# frozen_string_literal: true

module GateMile
  # Something that the audit of a setup found.
  #
  # code; harm: :problem, :warning or :note; zone: id of the zone at which it shows, or nil; other: id of a second zone,
  # or nil; numbers: what belongs to it; example: an {Address} that shows it, or nil; cart: document of a cart that
  # shows it, or nil; at: the moment at which it shows, on the store's clock; setting: what causes it,
  # `{ kind:, id: }`, where it is not the zone; part: of the setup that it is about, :zones, :rates, :goods, :offers or
  # :rules.
  class Finding < Value.of(:code, :harm, :zone, :other, :numbers, :example, :cart, :at, :setting, :part)
    HARMS = %i[problem warning note].freeze
    # What costs most comes first: a zero charged by accident, nothing available, losses, then holes and ties. What is
    # only worth knowing comes last, whatever it is about.
    RANKS = { free_beside_paid: 0, no_rate: 1, no_way: 1, no_class_price: 1, blank_cells: 1, loss: 2,
              own_price_far: 2, all_hidden: 1, free_unpriced: 0, free_by_accident: 0,
              nothing_left: 1, zone_ends: 1, zone_in_part: 1, own_country_left_out: 1, live_no_origin: 1,
              nobody_buys: -1, offer_loss: 2, pays_more: 2, figure_far: 2 }.freeze
    HOLE = 3
    private_constant :RANKS, :HOLE

    # @param findings [Array<Finding>]
    # @return [Array<Finding>] the most harmful first
    def self.in_order(findings)
      findings.sort_by.with_index { |item, index| [item.rank, HARMS.index(item.harm), index] }
    end

    # @return [Integer]
    def rank = harm == :note ? HOLE + 1 : RANKS.fetch(code, HOLE)

    # @return [String] the same as long as it says the same of the same setting
    def key
      said = [code, harm, zone, other, Plain.of(numbers), setting && Plain.of(setting)]
      Digest::SHA256.hexdigest(JSON.generate(said))[0, 16]
    end

    # @return [Hash] for JSON
    def dump
      { "key" => key, "code" => code.to_s, "harm" => harm.to_s, "zone" => zone, "other" => other,
        "numbers" => Plain.of(numbers), "example" => example && Documents.write(example), "cart" => cart, "at" => at,
        "setting" => setting && Plain.of(setting) }
    end
  end
end
