# frozen_string_literal: true

module GateMile
  # Which shops' pages may ask for mileposts. open: whether any may; origins: e.g. "https://shop.example".
  class Storefront < Value.of(:open, :origins)
    ORIGIN = %r{\Ahttps?://[a-z0-9]([a-z0-9.-]*[a-z0-9])?(:\d{1,5})?\z}
    private_constant :ORIGIN

    # @param reader [Reader] of the store
    # @return [Storefront] closed where the store says nothing
    def self.of(reader) = reader.object("storefront", required: false)&.then { |item| read(item) } || CLOSED

    # @param reader [Reader]
    # @return [Storefront]
    def self.read(reader)
      origins = reader.texts("origins", most: 20, longest: 200).map { |text| text.downcase.delete_suffix("/") }
      origins.each_with_index { |text, at| reader.problem(["origins", at], :not_an_origin) unless text.match?(ORIGIN) }
      open = reader.flag("open", default: false)
      reader.problem("origins", :no_origin) if open && origins.empty? && reader.problems.empty?
      reader.finish
      new(open: open, origins: origins.uniq)
    end

    CLOSED = new(open: false, origins: [].freeze)

    # @param origin [String, nil] of a request
    # @return [Boolean]
    def lets?(origin) = open && !origin.nil? && origins.include?(origin.downcase)

    # @return [Hash] for JSON
    def dump = { "open" => open, "origins" => origins }
  end
end
