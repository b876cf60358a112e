# frozen_string_literal: true

# For the parts of this shop's pages: the same questions as at the door, with the group of whoever is signed in.
module Through
  # What is asked through the shop.
  CALLS = %w[quotes quotes/batch served].freeze
  # Bytes of such a question.
  LIMIT = 100_000
  private_constant :CALLS, :LIMIT

  def self.registered(app)
    app.helpers Questions

    app.post "/gate-mile/*" do
      call = params["splat"].first
      halt(404) unless CALLS.include?(call) && request.content_length.to_i <= LIMIT
      through { call == "served" ? delivery.post(tried(call), asked) : delivery.post(call, as_shopper(call, asked)) }
    end

    app.get("/gate-mile/served") { through { delivery.get(tried("served")) } }
  end

  # How they are read, and handed on.
  module Questions
    def asked
      found = JSON.parse(request.body.read)
      found.is_a?(Hash) ? found : halt(422)
    rescue JSON::ParserError
      halt 422
    end

    def as_shopper(call, body)
      one = call == "quotes"
      given = one ? { "cart" => whose(body["cart"]) } : { "carts" => Array(body["carts"]).map { |cart| whose(cart) } }
      { **given, "trial" => basket.trial&.fetch(:id) }.compact
    end

    # A page names goods and an address; who is signed in, and their coupon, the shop knows better.
    def whose(cart)
      halt(422) unless cart.is_a?(Hash)
      basket.cart(to: cart["destination"] || {}, lines: cart["lines"])
    end

    def through
      content_type :json
      JSON.generate(yield)
    rescue Delivery::Away
      halt 503, JSON.generate(detail: "Away")
    rescue Delivery::Refused => e
      halt e.status, JSON.generate(e.body)
    end
  end
  private_constant :Questions
end
