# frozen_string_literal: true

require_relative "carriers"

# Asks for live quotes while carriers get into every kind of trouble, and holds each price against the tariffs.
class Soak
  include CarriersSupport

  PLACES = [{ "country" => "IE" }, { "country" => "US", "region" => "NY", "postcode" => "10001" }, { "country" => "GB", "postcode" => "IV29 9ZZ" }].freeze
  GOODS = %w[SHK-GAL-10 ROP-BRD-08 FND-15 CLT-200].freeze
  LIVE = { "IE" => "ie-live", "US" => "na-live", "GB" => "hi-live" }.freeze
  QUICK = (Carriers::MODES - %w[slow dripping]).freeze

  attr_reader :asked, :lost, :wrong, :outcomes

  def initialize(random, deadline:)
    @random = random
    @deadline = deadline
    @asked = @lost = 0
    @wrong = []
    @outcomes = Hash.new(0)
    @app = carriers
    @book = GateMile::Book.compile(Server::BookDocument.read)
  end

  def run(count)
    count.times { |at| once(at) }
  end

  private

  def once(at)
    trouble
    # Breakers are tried out elsewhere: here every call is made.
    Stoplight.default_data_store = Stoplight::DataStore::Memory.new
    Server::Carriers::Port.clear if (at % 3).zero?
    place = PLACES.sample(random: @random)
    lines = GOODS.sample(@random.rand(1..2), random: @random).map { |sku| { "sku" => sku, "quantity" => @random.rand(1..9) } }
    cart = GateMile::Cart.parse({ "lines" => lines, "destination" => place }, @book.currency)
    @asked += 1
    check(@book.quote(cart, at: Time.utc(2026, 6, 1), carriers: Server::Carriers::Port.new(@deadline)), place)
  rescue StandardError => e
    @lost += 1
    @wrong << "#{e.class}: #{e.message} #{e.backtrace.first}"
  end

  def trouble
    Tariffs::CARRIERS.each_key do |carrier|
      @app.modes[carrier] = @random.rand(3).zero? ? QUICK.sample(random: @random) : "well"
      @app.delays[carrier] = @random.rand(40).zero? ? @deadline * 1.5 : 0
    end
  end

  # Every other method has its price whatever the carriers do; the live one has one that its reckoning explains.
  def check(quote, place)
    live = quote.method_quotes.find { |method| method.rate == LIVE.fetch(place["country"]) }
    others = quote.method_quotes.reject { |method| method.rate == live.rate }
    @wrong << "a cart to #{place} is lost" if others.none?(&:available?) && live.status == :unavailable && place["country"] == "IE"
    @outcomes[kind(live)] += 1
    answers = live.reckoning.select { |step| step.code == :"live.answer" }.map(&:amount)
    return if answers.empty? || live.price.nil?

    @wrong << "#{live.cost} is none of #{answers}" unless answers.include?(live.cost)
    @wrong << "#{live.price} is below what the carrier takes, #{live.cost}" if live.price < live.cost
  end

  def kind(live)
    return :out unless live.available?

    live.reckoning.find { |step| %i[live.chosen live.fallback live.fallback_plan].include?(step.code) }&.code || :other
  end
end
