# frozen_string_literal: true

module GateMile
  # Goods that a schedule prices together: some lines of a cart. Each measure is worked out when a schedule asks for it.
  #
  # label: what to call them, nil for the whole cart; group: id of their class where they are priced by class, :others
  # for everything else; times: how many loads like this there are.
  class Load
    # What is told where a weight or a size is not known, and of which goods.
    MISSING = { weight: %i[no_weight unweighed], size: %i[no_size unsized] }.freeze
    private_constant :MISSING

    attr_reader :schedule, :label, :group

    # @param schedule [Flat, FirstAdditional, Steps, Grid] that prices it
    # @param lot [Lot]
    # @param view [View]
    # @param counted [Lot] the lines whose value counts
    # @param label [String, nil]
    # @param group [String, Symbol, nil]
    def initialize(schedule, lot, view, counted = lot, label = nil, group = nil)
      @schedule = schedule
      @lot = lot
      @view = view
      @counted = counted
      @label = label
      @group = group
    end

    # @param destination [Destination]
    # @return [Priced, Refusal]
    def price(destination) = schedule.price(self, destination)

    # @return [Integer]
    def times = 1

    # @return [Integer] units
    def quantity = @lot.quantity

    # @return [Integer] minor units
    def value = @counted.value(@view.basis)

    # @return [Integer, Rational, nil] base units, nil where something is not known of one of them
    def billable_weight = @view.billable(@lot)

    # @return [Array<String>]
    def names = @lot.names

    def unweighed = @lot.unweighed
    def unsized = @lot.unsized

    # @param gauge [Gauge]
    # @return [Integer, Rational, nil] nil where it is not known
    def by(gauge) = (gauge.needs ? measured : self).public_send(gauge.measure)

    # @param gauge [Gauge]
    # @return [Refusal] why the measure is not known
    def missing(gauge)
      code, list = MISSING.fetch(gauge.needs || (unweighed.any? ? :weight : :size))
      Refusal.new(code) { { names: public_send(list) } }
    end

    private

    # @return [Lot, Unit, Parcel] what knows weights and sizes of it
    def measured = @lot

    # One unit, so many times.
    class OfUnit < Load
      # @param schedule [Object]
      # @param unit [Unit]
      # @param view [View]
      # @param group [String, Symbol, nil]
      def initialize(schedule, unit, view, group = nil)
        super(schedule, nil, view, nil, unit.label, group)
        @unit = unit
      end

      def times = @unit.times
      def quantity = 1
      def value = @unit.value
      def names = [label]
      def unweighed = @unit.weight ? [] : names
      def unsized = @unit.sides ? [] : names
      def billable_weight = @view.billable_of(@view.policy.parcels([@unit.one], @view.boxes))

      private

      def measured = @unit
    end

    # One parcel, so many times.
    class OfParcel < Load
      # @param schedule [Object]
      # @param parcel [Parcel]
      # @param lot [Lot] that it is made of
      # @param view [View]
      def initialize(schedule, parcel, lot, view)
        super(schedule, lot, view)
        @parcel = parcel
      end

      def label = @parcel.names.first(3).join(", ")
      def names = goods.names
      def unweighed = goods.unweighed
      def unsized = goods.unsized

      def times = @parcel.times
      def quantity = @parcel.units
      def value = @parcel.value
      def billable_weight = @view.policy.billable(@parcel)

      private

      def measured = @parcel

      def goods
        inside = @parcel.contents.map(&:goods)
        Lot.new(@lot.lines.select { |line| inside.include?(line.identity) })
      end
    end
  end
end
