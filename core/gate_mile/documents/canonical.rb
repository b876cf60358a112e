# frozen_string_literal: true

module GateMile
  # Documents in one form, so that equal ones are equal to the byte: the names of every object in order, no spaces, and
  # no escapes but those that JSON needs. That is the JSON Canonicalization Scheme of RFC 8785, for what our documents
  # hold: texts, whole numbers, true, false and null.
  module Canonical
    class << self
      # @param document [Object] parsed JSON
      # @return [String] UTF-8
      # @raise [ArgumentError] for a number that is not whole: no document has one
      def json(document) = String.new.tap { |out| write(document, out) }.force_encoding(Encoding::UTF_8)

      # @param document [Object]
      # @return [String] SHA-256, 64 hexadecimal figures
      def digest(document) = Digest::SHA256.hexdigest(json(document))

      private

      def write(value, out)
        case value
        when Hash then object(value, out)
        when Array then listed(value, "[", "]", out) { |item| write(item, out) }
        when String, Integer, true, false, nil then out << JSON.generate(value)
        else raise ArgumentError, "no canonical form for #{value.class}"
        end
      end

      # RFC 8785 compares names by their UTF-16 code units.
      def object(hash, out)
        pairs = hash.map { |name, value| [name.to_s, value] }
        listed(pairs.sort_by { |name, _| name.encode(Encoding::UTF_16BE).b }, "{", "}", out) do |name, value|
          out << JSON.generate(name) << ":"
          write(value, out)
        end
      end

      def listed(items, first, last, out)
        out << first
        items.each_with_index do |item, at|
          out << "," unless at.zero?
          yield item
        end
        out << last
      end
    end
  end
end
