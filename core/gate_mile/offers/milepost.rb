# frozen_string_literal: true

module GateMile
  # What an offer says to shoppers: one text for each of its moments, each of which may be left silent.
  #
  # texts: by moment; near: {Boundary}, how close "nearly there" is; pages: kinds of page that it stands on, empty for
  # all; closable: whether a shopper can close it; link: where it leads, or nil; zones, groups: ids that it is narrowed
  # to, nil for all of the offer's; period: {Period} inside the offer's.
  class Milepost < Value.of(:active, :texts, :near, :pages, :closable, :link, :zones, :groups, :period)
    MOMENTS = %w[before away nearly reached not_for_you].freeze
    PLACEHOLDERS = %w[remaining threshold zone method].freeze
    PATTERN = /\{([^{}]*)\}/
    LINK = %r{\A(https?://[^\s<>"]+|/[^\s<>"]*)\z}
    private_constant :LINK

    class << self
      # @param reader [Reader]
      # @param threshold [Threshold, nil] of its offer
      # @param store [Hash] currency and time_zone
      # @return [Milepost]
      def read(reader, threshold, store)
        texts = reader.object("texts", required: false)
        new(active: reader.flag("active", default: true), texts: texts ? texts(texts) : {},
            near: near(reader, threshold, store[:currency]), pages: reader.texts("pages", most: 20, longest: 40),
            closable: reader.flag("closable", default: false), link: link(reader), **limits(reader),
            period: Period.read(reader, store[:time_zone])).tap { reader.finish }
      end

      private

      def limits(reader)
        %w[zones groups].to_h do |key|
          [key.to_sym, (reader.texts(key, most: 500) if reader.given?(key, read: true))]
        end
      end

      def texts(reader)
        found = MOMENTS.to_h do |moment|
          text = reader.text(moment, required: false, most: 300)
          unknown = text.to_s.scan(PATTERN).flatten.find { |name| !PLACEHOLDERS.include?(name.strip) }
          reader.problem(moment, :unknown_placeholder, name: unknown) if unknown
          [moment, text]
        end
        reader.finish
        found.compact
      end

      def near(reader, threshold, currency)
        gauge = Gauge.new(threshold.measure, currency) if threshold&.measure && currency
        reader.parsed("near", required: false) { |text| gauge && Boundary.parse(gauge, text) }
      end

      def link(reader)
        reader.text("link", required: false, most: 500)&.then do |text|
          text.match?(LINK) && !text.start_with?("//") ? text : reader.problem("link", :not_a_link)
        end
      end
    end

    # @return [Hash] for JSON
    def dump
      { "active" => active, "texts" => texts, "near" => near&.text, "pages" => (pages if pages.any?),
        "closable" => closable, "link" => link, "zones" => zones, "groups" => groups, **period.dump }.compact
    end
  end
end
