# frozen_string_literal: true

# A visitor's basket, group, coupon and address, in their session.
class Basket
  GROUPS = ["Retail", "Trade", "Harbour crew"].freeze
  FIELDS = %w[name line1 line2 city region postcode country].freeze
  # Units of one line, and lines.
  MOST = 10_000
  LINES = 500

  # @param session [Hash]
  # @param catalogue [Catalogue]
  def initialize(session, catalogue)
    @session = session
    @catalogue = catalogue
  end

  # @return [Array<Hash>] lines as a cart has them
  def lines = @session[:lines] ||= []

  # @return [Integer]
  def units = lines.sum { |line| line["quantity"] }
  def empty? = lines.empty?

  # @param sku [String] of the catalogue
  # @param quantity [Integer]
  # @return [void]
  def add(sku, quantity)
    line = lines.find { |one| one["sku"] == sku }
    return set(sku, line["quantity"] + quantity) if line

    lines << { "sku" => sku, "quantity" => quantity.clamp(1, MOST) } if @catalogue[sku] && lines.size < LINES
  end

  # @param sku [String]
  # @param quantity [Integer] nothing takes the line away
  # @return [void]
  def set(sku, quantity)
    return lines.reject! { |line| line["sku"] == sku } unless quantity.positive?

    lines.find { |line| line["sku"] == sku }&.store("quantity", quantity.clamp(1, MOST))
  end

  def group = @session[:group]
  def coupon = @session[:coupon]

  # @param name [String] nobody's for what is no group
  def group=(name)
    @session[:group] = (name if GROUPS.include?(name))
  end

  def coupon=(code)
    @session[:coupon] = code.to_s.strip[0, 60].then { |text| text unless text.empty? }
  end

  # @return [Hash] of {FIELDS}
  def address = @session[:address] ||= {}

  # @param fields [Hash]
  def address=(fields)
    @session[:address] = FIELDS.to_h { |name| [name, fields[name].to_s.strip[0, 200]] }
  end

  # What a merchant looks at: asked for by the trial's own words.
  def trial = @session[:trial]

  # @param id [String]
  # @param told [Hash] CheckoutTrial
  # @return [void]
  def try(id, told)
    cart = told["cart"]
    to = cart["destination"] || {}
    first, second = to["lines"]
    @session.merge!(trial: { id: id, release: told["release"], at: told["at"] }, lines: cart["lines"],
                    group: cart["group"], coupon: cart["coupons"]&.first,
                    besides: cart.slice("order_discount", "promotions", "billing"))
    self.address = { "line1" => first, "line2" => second, **to.slice("region", "postcode", "country") }
  end

  # @return [void]
  def leave = @session.clear

  # After an order the address stays.
  # @return [void]
  def ordered = @session.merge!(lines: [], coupon: nil)

  # @return [BigDecimal]
  def subtotal = lines.sum(BigDecimal(0)) { |line| price(line) * line["quantity"] }

  # @param line [Hash]
  # @return [BigDecimal]
  def price(line)
    return BigDecimal(line["unit_price"]) if line["unit_price"]

    @catalogue[line["sku"]]&.price || BigDecimal(0)
  end

  # @param line [Hash]
  # @return [String]
  def name(line) = line["name"] || @catalogue[line["sku"]]&.name || line["sku"].to_s

  # What is asked for.
  # @param to [Hash, nil] a destination; nil for the address that was typed
  # @param lines [Array<Hash>]
  # @return [Hash] a cart document
  def cart(to: nil, lines: self.lines)
    mine = { "lines" => lines, "destination" => to || destination, "group" => group, "coupons" => [*coupon] }
    @session[:besides].to_h.merge(mine.compact)
  end

  # @return [Hash] what is known of the address
  def destination
    street = address.values_at("line1", "line2").reject { |line| line.to_s.empty? }
    { **address.slice("country", "region", "postcode").reject { |_, text| text.to_s.empty? },
      **(street.any? ? { "lines" => street } : {}) }
  end
end
