# frozen_string_literal: true

module GateMile
  # What changes for carts when one book takes the place of another: every proof that moves, and of the carts that tell
  # edges apart all around what differs, those that get something else. What many carts show alike is told once.
  class CartChanges
    # Carts that are looked at, at most, beside the proofs.
    MOST = 6000
    # Goods that differ and are looked at one by one.
    GOODS = 100
    PARTS = %i[store zones classes treatments policies carriers methods_in_order].freeze
    private_constant :MOST, :GOODS, :PARTS

    # @param old [Book]
    # @param new [Book]
    # @param now [Time] of carts without a moment
    # @param stop [#call, nil] says whether it is time to end
    def initialize(old, new, now:, stop: nil)
      @old = old
      @new = new
      @now = now
      @stop = stop
      @edited = Edited.new(old, new)
      @whole = true
    end

    # @return [Array<CartChange>] the largest first
    def list
      @list ||= grouped.sort_by.with_index { |one, at| [one.weight.map(&:-@), at] }
    end

    # @return [Boolean] whether every cart was looked at: false where there were too many, or it took too long
    def whole?
      list
      @whole
    end

    # @return [Array<Zone>] that carts can land in now
    def zones_gained = served(@new).reject { |zone| served(@old).any? { |one| one.id == zone.id } }

    # @return [Array<Zone>] that they can't any more
    def zones_lost = served(@old).reject { |zone| served(@new).any? { |one| one.id == zone.id } }

    private

    def served(book) = book.zones.select { |zone| zone.active && book.rates_of(zone).any?(&:active) }

    # One cart that may get something else. carriers: what it is quoted with; name: of the proof that it is of.
    Looked = Struct.new(:cart, :document, :at, :moment, :reasons, :name, :carriers)
    private_constant :Looked

    def grouped
      found = {}
      each_cart do |one|
        change = change(one) or next
        key = [change.zone, change.methods, change.text]
        found[key] = found[key] ? joined(found[key], change) : change
      end
      found.values
    end

    def joined(known, other) = known.with(count: known.count + 1, proofs: known.proofs + other.proofs)

    def each_cart(&)
      proofs(&)
      proposals.each_with_index do |one, at|
        next @whole = false if at >= MOST || @stop&.call

        yield Looked.new(Cart.parse(one.cart, @new.currency), one.cart, one.at, moment(one.at), one.reasons, nil, one)
      end
    end

    # A proof that stands in both books is looked at as the newer one has it.
    def proofs
      return if @old.currency != @new.currency

      known = (@new.proofs + @old.proofs).uniq(&:id)
      known.each do |proof|
        at = proof.moment.times(@now, @new.store.time_zone).first
        said = LocalMoment.local(at, @new.store.time_zone).strftime("%Y-%m-%dT%H:%M") unless proof.moment.whenever?
        yield Looked.new(proof.cart, proof.cart.dump, said, at, [], proof.name, proof.recorded)
      end
    end

    def moment(at) = at ? LocalMoment.utc(at, @new.store.time_zone) : @now

    def change(one)
      before, after = [@old, @new].map { |book| book.quote(one.cart, at: one.moment, carriers: one.carriers&.port) }
      methods = differing_methods(before, after)
      text = [before.text, after.text]
      text = nil if text.first == text.last
      zone = (after.landing&.zone || before.landing&.zone)&.id
      return if methods.empty? && text.nil?

      CartChange.new(zone: zone, methods: methods, text: text, cart: one.document, at: one.at, reasons: one.reasons,
                     count: 1, proofs: [one.name].compact)
    end

    # A method that a carrier prices has no price here, unless it is supposed what carriers say: it comes or goes.
    def differing_methods(before, after)
      old, new = [before, after].map { |quote| offered(quote) }
      (new.keys | old.keys).reject { |id| said(old[id]) == said(new[id]) }.map do |id|
        shown = new[id] || old[id]
        CartChange::MethodChange.new(code: shown.code, name: shown.name, before: old[id]&.price, after: new[id]&.price)
      end
    end

    def offered(quote) = quote.method_quotes.select(&:available?).to_h { |one| [one.method_id, one] }
    def said(method) = method && [method.price, method.code, method.name]

    # Carts all around what differs, of both books, no one twice.
    def proposals
      return [] if @old.currency != @new.currency

      walks = walks(@new, @old) + walks(@old, @new)
      @whole &&= walks.all?(&:whole?)
      [*walks.flat_map(&:proposals), *goods].uniq { |one| [one.cart, one.at, one.carriers] }
    end

    def walks(book, other)
      zones = book.zones.select { |zone| zone.active && @edited.zone?(zone.id) }
      return whole_zones(book, zones) unless only_rates?

      zones.flat_map { |zone| book.rates_of(zone) - other.rates }.map { |rate| Walk.of_rate(book, rate, now: @now) }
    end

    def whole_zones(book, zones)
      return [] if zones.empty?

      [Walk.new(book, zones, zones.flat_map { |zone| book.rates_of(zone) }, book.offers, now: @now)]
    end

    # Whether nothing but rates differs, goods left aside, so that walks along those rates show it all.
    def only_rates?
      return @only_rates if defined?(@only_rates)

      @only_rates = PARTS.all? do |part|
        one, other = [@old, @new].map { |book| book.public_send(part) }
        one.respond_to?(:to_a) ? one.to_a == other.to_a : one == other
      end
    end

    # Goods that differ, each alone in every zone.
    def goods
      samples = @new.zones.samples
      places = served(@new).filter_map { |zone| samples.of(zone) }
      differing.first(GOODS).flat_map do |sku|
        places.map do |address|
          cart = { "lines" => [{ "sku" => sku, "quantity" => 1 }], "destination" => Documents.write(address) }
          Proposal.new(cart: cart, at: nil, reasons: [])
        end
      end
    end

    def differing
      skus = @new.catalogue.articles.lazy.map(&:sku)
      found = skus.reject { |sku| @old.catalogue[sku]&.product == @new.catalogue[sku].product }.first(GOODS + 1)
      @whole &&= found.size <= GOODS
      found
    end
  end
end
