# frozen_string_literal: true

module Server
  # The parcels of a cart, to be drawn: by a rate's own policy, or the shop's.
  module ParcelsDocument
    class << self
      # @param book [GateMile::Book]
      # @param cart [GateMile::Cart]
      # @param id [String, nil] of a rate, nil for the shop's policy
      # @return [Hash] ParcelsDrawn of the contract
      def of(book, cart, id)
        rate = book.rates.find { |one| one.id == id }
        policy = rate&.plan&.parcels || book.store.parcels
        basket = book.basket(cart)
        lines = rate ? ordinary(book, basket, rate) : basket.shipping
        loads = GateMile::Loads.new(lines.select(&:worth), book.store.basis, policy, boxes: book.store.boxes)
        found = lines.empty? ? [] : loads.parcels
        return { parcels: [], cause: cause(found) } if found.is_a?(GateMile::Refusal)

        { parcels: found.map { |parcel| parcel(parcel, policy, book.store) }, cause: nil }
      end

      private

      def ordinary(book, basket, rate)
        run = GateMile::Run.new(book, basket, rate, nil, GateMile::Destination::SOMEWHERE)
        GateMile::Pipeline.new(run).ordinary_lines
      end

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
            { name: unit.label, of: goods.index(unit.line.goods), at: block.at.map do |side|
              drawn(side)
            end, counts: block.counts,
              dims: block.dims.map { |side| drawn(side) } }
          end }
      end

      def drawn(base) = (base/100_000r).round
    end
  end
end
