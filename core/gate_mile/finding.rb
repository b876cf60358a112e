# frozen_string_literal: true

module GateMile
  # Something that the audit of a setup found.
  #
  # code; harm: :problem, :warning or :note; zone: id of the zone at which it shows, or nil; other: id of a second zone,
  # or nil; numbers: what belongs to it; example: an {Address} that shows it, or nil; setting: what causes it,
  # `{ kind:, id: }`, where it is not the zone.
  class Finding < Value.of(:code, :harm, :zone, :other, :numbers, :example, :setting)
    HARMS = %i[problem warning note].freeze

    # @param findings [Array<Finding>]
    # @return [Array<Finding>] the most harmful first
    def self.in_order(findings) = findings.sort_by.with_index { |item, index| [HARMS.index(item.harm), index] }

    # @return [Hash] for JSON
    def dump
      { "code" => code.to_s, "harm" => harm.to_s, "zone" => zone, "other" => other, "numbers" => Plain.of(numbers),
        "example" => example&.dump, "setting" => setting && Plain.of(setting) }
    end
  end
end
