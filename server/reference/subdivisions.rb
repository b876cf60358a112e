# frozen_string_literal: true

require "countries"

module Server
  # Names and kinds of the regions of ISO 3166-2. To read them all from the library takes seconds, for five thousand of
  # them: they are put aside in a file after the first time.
  module Subdivisions
    class << self
      # @param country [String] ISO 3166-1 alpha-2
      # @return [Hash{String => Array(String, String)}] English name, and kind as "province", by code; the kind may be
      #   nil
      # @example
      #   Server::Subdivisions.of("CA")["BC"] #=> ["British Columbia", "province"]
      def of(country) = all.fetch(country)

      # @return [Hash{String => Hash}] those of every country
      def all = @all ||= read || work_out.tap { |found| keep(found) }

      # @return [String] the file of this release of the library
      def file = File.join(Settings.aside, "subdivisions-#{Countries::VERSION}.json")

      # @return [void] reads anew when it is asked next
      def clear = @all = nil

      private

      # What is no such file, or no whole one, is as good as none.
      def read
        found = JSON.parse(File.read(file))
        found if found.keys == GateMile::Countries::CODES
      rescue SystemCallError, JSON::ParserError, NoMethodError
        nil
      end

      def work_out
        GateMile::Countries::CODES.to_h do |country|
          [country, ISO3166::Country[country].subdivisions.transform_values do |region|
            [region.translations["en"] || region.name, region.type]
          end]
        end
      end

      # In one step; where nothing can be written, they are worked out each time.
      def keep(found)
        FileUtils.mkdir_p(File.dirname(file))
        part = "#{file}.#{Process.pid}"
        File.write(part, JSON.generate(found))
        File.rename(part, file)
      rescue SystemCallError
        nil
      end
    end
  end
end
