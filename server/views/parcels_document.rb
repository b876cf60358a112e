# frozen_string_literal: true

module Server
  # The parcels of a cart, to be drawn: by a rate's own policy, or the shop's.
  module ParcelsDocument
    # Of a millimetre, in base units.
    TENTH = GateMile::Length::UNITS["mm"].to_r / 10
    private_constant :TENTH

    class << self
      # @param book [GateMile::Book]
      # @param cart [GateMile::Cart]
      # @param id [String, nil] of a rate, nil for the shop's policy
      # @return [Hash] ParcelsDrawn of the contract
      def of(book, cart, id)
        rate = book.rates.find { |one| one.id == id }
        policy = rate&.plan&.parcels || book.store.parcels
        basket = book.basket(cart)
        lot = rate ? book.program(rate).ordinary_lines(basket) : basket.shipping
        view = GateMile::View.new(basis: book.store.basis, policy: policy, boxes: book.store.boxes)
        found = lot.empty? ? [] : view.parcels(GateMile::Lot.new(lot.lines.select(&:known)))
        return { parcels: [], cause: cause(found) } if found.is_a?(GateMile::Refusal)

        { parcels: found.map { |parcel| parcel(parcel, policy, book.store) }, cause: nil }
      end

      private

      def cause(refusal) = { code: refusal.code, numbers: GateMile::Plain.of(refusal.numbers), setting: nil }

      def parcel(parcel, policy, store)
        { box: parcel.packed&.box&.name, times: parcel.times, units: parcel.units, contents: contents(parcel),
          weight: weight(parcel.weight, store), volumetric: weight(volumetric(parcel, policy), store),
          billable: weight(policy.billable(parcel), store), fill: fill(parcel.packed),
          size: parcel.size&.map { |side| GateMile::Length.new(side, store.length_unit).to_s },
          drawing: parcel.packed && drawing(parcel) }
      end

      def contents(parcel) = parcel.contents.map { |one| { name: one.label, units: one.units } }
      def volumetric(parcel, policy) = policy.divisor && policy.volumetric(parcel.volume)

      def weight(base, store) = base && GateMile::Weight.new(GateMile::Decimal.simplify(base), store.weight_unit).to_s

      # How much of the room is used, in percent.
      def fill(packed)
        return if packed.nil?

        room = packed.box.room.inject(:*)
        (packed.blocks.sum { |block| block.item.volume * block.units } * 100 / room).floor
      end

      # In tenths of a millimetre, as whole numbers; of which of the contents each block is.
      def drawing(parcel)
        goods = parcel.contents.map(&:goods)
        { room: parcel.packed.box.room.map { |side| drawn(side) },
          blocks: parcel.packed.blocks.map do |block|
            unit = block.item.load.first
            { name: unit.label, of: goods.index(unit.line.identity), at: block.at.map { |side| drawn(side) },
              counts: block.counts, dims: block.dims.map { |side| drawn(side) } }
          end }
      end

      def drawn(base) = (base / TENTH).round
    end
  end
end
