# frozen_string_literal: true

module GateMile
  # Carts that show what findings say: each is quoted, and kept only where the quote is so. What no cart shows has none.
  class Exhibits
    # Carts that are tried for one finding.
    MOST = 300
    # What the method of the rate must be refused for.
    CAUSES = { blank_cells: %i[blank_cell], no_class_price: %i[no_class_price], not_carried: %i[not_carried],
               ends_early: %i[beyond], no_way: %i[line_barred], no_weight: %i[no_weight], no_size: %i[no_size],
               live_unmeasured: %i[no_weight no_size], live_no_origin: %i[no_origin] }.freeze
    # Findings that a price shows, and the test that the price must pass.
    PRICES = { free_beside_paid: :nothing?, free_unpriced: :nothing?, figure_far: :figure?, falling: :fallen?,
               loss: :lost?, own_price_far: :own?, bound_swallows: :figure?, rates_alike: :alike? }.freeze
    # How many of the goods that a finding names are tried.
    UNITS = [1, 4, 12, 40].freeze
    private_constant :MOST, :CAUSES, :PRICES, :UNITS

    # @param book [Book]
    # @param at [Time]
    def initialize(book, at)
      @book = book
      @at = at
      @samples = book.zones.samples
    end

    # @param finding [Finding]
    # @return [Finding] with a cart that shows it, where there is one; as it is where it has a cart or an address
    def on(finding)
      return finding if finding.cart || finding.example

      cart = carts(finding).first(MOST).find { |document| shows?(finding, document) }
      cart ? finding.with(cart: cart) : finding
    end

    private

    def carts(finding)
      zone = finding.zone || zone_of(finding.setting)
      address = zone && @samples.of(@book.zone(zone))
      return [].lazy if address.nil?

      to = Documents.write(address)
      [named(finding), CartLines.of(@book, rate_of(finding))].lazy.flat_map { |lines| lines }.compact
                                                             .map do |line|
        { "lines" => [line],
          "destination" => to }
      end
    end

    # Where an offer or a rule acts.
    def zone_of(setting)
      return unless %w[offer rule].include?(setting&.fetch(:kind))

      offer = @book.offers.find { |one| one.id == setting[:id] } if setting[:kind] == "offer"
      zones = offer&.zones
      (zones || @book.rates_in_use.map(&:zone)).find { |id| @book.zone(id)&.active }
    end

    # The goods that a finding names, in several quantities, since an offer may need more than one.
    def named(finding)
      sku = skus[finding.numbers[:names]&.first || finding.numbers[:name]] or return []
      UNITS.map { |count| { "sku" => sku, "quantity" => count } }
    end

    def skus
      @book.catalogue.once(:sku_by_name) { Alone.goods(@book).to_h { |article| [article.name, article.sku] }.freeze }
    end

    def rate_of(finding)
      found = @book.rates.find { |one| one.id == finding.setting[:id] } if finding.setting&.fetch(:kind) == "rate"
      found || @book.rates_in_use.find { |one| one.zone == finding.zone }
    end

    def shows?(finding, document)
      quote = @book.quote(Cart.parse(document, @book.currency), at: @at)
      return false if finding.zone && quote.landing&.zone&.id != finding.zone

      case finding.setting&.fetch(:kind)
      when "rule" then quote.verdicts.any? { |one| one.rule.id == finding.setting[:id] && one.held? }
      when "offer" then acts?(finding, quote)
      else by_method?(finding, quote)
      end
    end

    def by_method?(finding, quote)
      methods = own(finding, quote)
      return false if finding.code == :no_way && quote.status != :nothing_available

      causes = CAUSES[finding.code]
      return methods.any? { |one| one.causes.any? { |cause| causes.include?(cause.code) } } if causes

      priced?(finding, methods, quote)
    end

    def by?(finding, kind) = finding.setting&.fetch(:kind) == kind

    def acts?(finding, quote)
      quote.method_quotes.any? { |one| one.available? && one.acted.any? { |offer| offer.id == finding.setting[:id] } }
    end

    # The method of the finding's rate, or all methods where the finding names no rate.
    def own(finding, quote)
      return quote.method_quotes unless by?(finding, "rate")

      quote.method_quotes.select { |one| one.rate == finding.setting[:id] }
    end

    def priced?(finding, methods, quote)
      way = finding.code == :free_by_accident ? :nothing? : PRICES[finding.code]
      way && methods.any? { |one| one.available? && send(way, one, finding, quote) }
    end

    def nothing?(one, _finding, _quote) = one.price.zero?
    def lost?(one, _finding, _quote) = !one.cost.nil? && one.cost > one.price
    def own?(one, finding, _quote) = one.reckoning.any? { |step| step.amount == finding.numbers[:price] }
    def fallen?(one, finding, _quote) = one.reckoning.any? { |step| step.amount == finding.numbers[:after] }

    def figure?(one, finding, _quote)
      figure = finding.numbers[:figure]
      one.price == figure || one.reckoning.any? { |step| step.amount == figure || step.numbers.value?(figure) }
    end

    def alike?(one, _finding, quote)
      quote.method_quotes.any? { |other| other.rate != one.rate && other.price == one.price }
    end
  end
end
