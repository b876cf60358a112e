# frozen_string_literal: true

module GateMile
  # Goods that a schedule prices together, as exact numbers.
  #
  # label: what to call them, nil for the whole cart; group: id of their class where they are priced by class, :others
  # for everything else, and classes: which these are;
  # times: how many loads like this there are; quantity: units; value: minor units; weight, volume, longest: base
  # units, nil where something is not known of one of them; billable: the same by parcels, or what works it out;
  # unweighed, unsized: what it is not known of; names: of the goods;
  # line: of a single unit, the {Line} that it is one of.
  class Load < Value.of(:label, :group, :classes, :times, :quantity, :value, :weight, :volume, :longest, :billable,
                        :unweighed,
                        :unsized, :names, :line)
    # What each measure needs to be known: a code of what is missing, and of which goods.
    MISSING = { "weight" => %i[no_weight unweighed], "volume" => %i[no_size unsized], "longest" => %i[no_size unsized] }
              .freeze
    private_constant :MISSING

    # @param gauge [Gauge]
    # @return [Integer, Rational, nil] nil where it is not known
    def by(gauge)
      return billable.respond_to?(:call) ? billable.call : billable if gauge.name == "billable_weight"

      public_send(gauge.name)
    end

    # @param gauge [Gauge]
    # @return [Refusal] why the measure is not known
    def missing(gauge)
      code, list = MISSING[gauge.name] || (unweighed.any? ? %i[no_weight unweighed] : %i[no_size unsized])
      Refusal.new(code: code, incomplete: true, numbers: { names: self[list] })
    end
  end

  # No price, and why. incomplete: whether it is the merchant who has left something open.
  class Refusal < Value.of(:code, :incomplete, :numbers)
  end
end
