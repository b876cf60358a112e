# frozen_string_literal: true

require_relative "checkout"

# Requests to every address of the contract: bodies as it describes them, with known names of the shop in them, then changed at one place or several into what
# nobody should send. What is refused may change nothing, and nothing may break the server.
class Fuzz
  include CheckoutSupport
  include Minitest::Assertions

  NONSENSE = [nil, true, false, 0, -1, 1.5, 10**30, 1e300, "", " ", "\u0000", "x" * 5000, "\u202eabc", "=1+1", "4.505", "-0", "1e9", "NaN",
              "’; DROP TABLE zones; --", "../../etc/passwd", "<script>alert(1)</script>", [], {}, [nil], [[]], { "a" => { "b" => [] } }, "2026-02-30",
              "99:99", "GB", "ZZ", "1 kg", "-5 kg", "IV, #, 1999 to 1000", "%", "\u{1F6A2}" * 50].freeze
  TEXTS = %w[GB IE US TR29 IV1 4.50 0.00 1kg 12cm LOG-A4 FLR-ROL TRACKED AIR Name 2026-06-01T10:00 2026-06-01 weight value 50
             https://shop.example].freeze
  SLOW = %w[/api/findings /api/geography].freeze
  # What ends the session of whoever asks.
  ENDS = %w[/api/session /api/me/sessions/{id} /api/people/{id}/sessions].freeze
  # What is counted to see whether something was changed.
  COUNTED = %w[changes releases publications orders checkout_keys webhooks people invitations zones rates products offers rules proofs].freeze

  # @return [Integer] requests that were made
  attr_reader :asked
  # @return [Hash{Integer => Integer}] answers by status
  attr_reader :answers
  # @return [Array<String>] what was wrong
  attr_reader :wrong
  attr_accessor :assertions

  # @param random [Random]
  def initialize(random)
    @random = random
    @asked = 0
    @answers = Hash.new(0)
    @wrong = []
    @assertions = 0
    fresh(WHOLE_DEMO)
    publish
    @key = key_for("Fuzz", pace: 100_000, calls: CALLS + %w[state])
    # What takes nothing from whoever asks, and seconds to work out, is asked elsewhere.
    @operations = Server::Contract.source["paths"].flat_map do |path, verbs|
      next [] if SLOW.include?(path)

      verbs = verbs.except("delete") if ENDS.include?(path)
      verbs.slice("get", "post", "put", "patch", "delete").map { |verb, operation| [verb.to_sym, path, operation] }
    end
    sign_in
    @before = standing
    @ids = Hash.new { |found, list| found[list] = setup_now.fetch(list, []).filter_map { |one| one["id"] } }
  end

  # @param count [Integer]
  # @return [void]
  def run(count)
    count.times { |at| at % 25 == 24 ? raw : one(*@operations.sample(random: @random)) }
  end

  private

  # As an owner, whom nothing is refused for who they are.
  def sign_in
    owner = Server::Records::Person.create!(name: "Ann", email: "ann@tarrow.example", role: "owner", password: "lantern gravel", made_at: Time.now)
    Server::People.changed
    @cookie = Server::Sessions.make(owner, {})[/\A[^;]+/]
    set_cookie(@cookie)
  end

  def standing
    ActiveRecord::Base.connection.select_one("SELECT (SELECT revision FROM stores) AS revision, #{COUNTED.map do |table|
      "(SELECT COUNT(*) FROM #{table}) AS #{table}"
    end.join(", ")}")
  end

  def one(verb, path, operation)
    address = "#{path.gsub(/\{(\w+)\}/) { part(path, Regexp.last_match(1)) }}#{query(operation)}"
    schema = operation.dig("requestBody", "content", "application/json", "schema")
    body = schema && (chance(5) ? sample(schema) : mutated(sample(schema)))
    tell(verb, address, verb == :get ? nil : body)
  end

  # What is no request of the contract at all.
  def raw
    path = ["/", "/api/", "/api/zones/%00", "/%ff", "/checkout/v1/", "/public/none", "/api/zones/../store", "/api/quote", "/embed/x",
            "/assets/..%2f..%2fboot.rb"].sample(random: @random)
    body = ["{", "[]", "null", "\xff".b, "{\"a\":#{"[" * 200}#{"]" * 200}}", "", "a=b", "{\"cart\":{\"lines\":[{\"quantity\":1e999}]}}"].sample(random: @random)
    tell(%i[get post put patch delete options].sample(random: @random), path, body)
  end

  def tell(verb, address, body)
    @asked += 1
    text = body.is_a?(String) ? body : body && JSON.generate(body)
    code = answered(verb, address, text)
    @answers[code] += 1
    label = "#{verb} #{address} #{text.to_s.dup.force_encoding(Encoding::UTF_8).scrub[0, 300]}".scrub
    @wrong << "#{code}: #{label}" if code >= 500 && ![503].include?(code)
    now = standing
    @wrong << "changed though it was refused with #{code}: #{label}" if code >= 400 && now != @before
    @before = now
  end

  def answered(verb, address, text)
    headers = { "REMOTE_ADDR" => "127.0.0.1", "CONTENT_TYPE" => chance(40) ? "text/plain" : "application/json", "HTTP_HOST" => "localhost",
                "HTTP_AUTHORIZATION" => "Bearer #{@key}", "HTTP_COOKIE" => @cookie, "HTTP_IDEMPOTENCY_KEY" => chance(30) ? "again" : nil }.compact
    uri = address.b.gsub(/[^\x21-\x7e]/n) { |byte| format("%%%02X", byte.ord) }
    env = Rack::MockRequest.env_for("http://localhost#{uri}", method: verb.to_s.upcase, input: text.to_s.dup, **headers)
    status, _, parts = STACK.call(env)
    parts.each { |_| nil }
    parts.close if parts.respond_to?(:close)
    status
  rescue URI::InvalidURIError
    400
  end

  def chance(of) = @random.rand(of).zero?

  def part(path, name)
    return ["1", "2", "0", "-1", "x", "99999999999"].sample(random: @random) if name == "number"
    return NONSENSE.grep(String).sample(random: @random).to_s[0, 40].gsub(%r{[/?#%]}, "") if chance(6)

    list = path[%r{/api/(\w+)/}, 1]
    (@ids[{ "areas" => "zones", "publications" => "rates" }.fetch(list, list.to_s)].sample(random: @random) || "gone").to_s
  end

  def query(operation)
    names = Array(operation["parameters"]).filter_map do |one|
      (one["$ref"] ? source(one["$ref"]) : one).then do |found|
        found["name"] if found["in"] == "query"
      end
    end
    names = names.reject { |_| chance(3) }
    names.empty? ? "" : "?#{names.map { |name| "#{name}=#{%w[0 1 2 draft changed LOG x -1 9999999999 %00].sample(random: @random)}" }.join("&")}"
  end

  def source(ref) = Server::Contract.source.dig(*ref.split("/").drop(1))

  # A value as a schema has it.
  def sample(schema, depth = 0)
    return sample(source(schema["$ref"]), depth) if schema["$ref"]
    return schema["const"] if schema.key?("const")
    return schema["enum"].sample(random: @random) if schema["enum"]

    choices = schema["oneOf"] || schema["anyOf"]
    base = schema["allOf"].to_a.map { |one| sample(one, depth) }.grep(Hash).inject({}, :merge)
    chosen = choices && sample(choices.sample(random: @random), depth)
    return chosen if choices && !chosen.is_a?(Hash)

    typed(schema, depth, base.merge(chosen || {}))
  end

  def typed(schema, depth, base)
    case Array(schema["type"] || (schema["properties"] || base.any? ? "object" : "string")).sample(random: @random)
    when "object" then object(schema, depth, base)
    when "array" then Array.new(depth > 6 ? 0 : @random.rand(3)) { sample(schema.fetch("items", { "type" => "string" }), depth + 1) }
    when "integer" then [0, 1, 2, 7, 60].sample(random: @random)
    when "number" then [0, 1.5, 20].sample(random: @random)
    when "boolean" then chance(2)
    when "null" then nil
    else (@ids.values.flatten + TEXTS).sample(random: @random)
    end
  end

  def object(schema, depth, base)
    required = schema["required"].to_a
    chosen = schema["properties"].to_h.select { |name, _| required.include?(name) || (depth < 5 && chance(3)) }
    base.merge(chosen.to_h { |name, one| [name, name == "lock_version" ? @random.rand(3) : sample(one, depth + 1)] })
  end

  # The same with one to three places changed.
  def mutated(value)
    (1 + @random.rand(3)).times { value = changed(value) }
    value
  end

  def changed(value)
    case value
    when Hash
      return value.merge("surplus" => NONSENSE.sample(random: @random)) if value.empty? || chance(8)

      key = value.keys.sample(random: @random)
      return value.except(key) if chance(6)

      value.merge(key => chance(3) ? NONSENSE.sample(random: @random) : changed(value[key]))
    when Array
      return [*value, NONSENSE.sample(random: @random)] if value.empty? || chance(5)

      at = @random.rand(value.size)
      value.each_with_index.map { |item, index| index == at ? changed(item) : item }
    else NONSENSE.sample(random: @random)
    end
  end
end
