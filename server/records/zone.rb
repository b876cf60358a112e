# frozen_string_literal: true

module Server
  module Records
    # A zone and its areas.
    class Zone < Base
      has_many :areas, -> { order(:position) }, dependent: :destroy, autosave: true, inverse_of: :zone
      has_many :rates, -> { order(:position, :id) }, dependent: :destroy, inverse_of: :zone

      words :name
      unlike_others :name, "zone"
      validate :areas_readable

      # @param list [Array<Hash>] areas as in a book document; rows of places that stay are kept
      def places=(list)
        list = list.map { |place| place.merge({ "country" => place["country"]&.upcase }.compact) }
        @places = list
        kept = areas.index_by(&:place)
        wanted = list.each_with_index.map do |place, index|
          area = kept.delete([place["kind"], place["country"]]) || areas.build
          area.tap { area.assign_attributes(kind: place["kind"], country: place["country"], position: index + 1) }
        end
        kept.each_value(&:mark_for_destruction)
        wanted
      end

      # @return [Hash] as in a book document
      def document
        { "id" => id, "name" => name, "active" => active,
          "areas" => areas.sort_by(&:position).map(&:document) }
      end

      private

      def areas_readable
        places = @places or return

        reader = GateMile::Reader.new({ "areas" => places })
        reader.list("areas") { |item| GateMile::Area.read(item) }
        reader.problems.each do |problem|
          errors.add(:areas, Words.of(problem.code, **problem.numbers), pointer: problem.pointer)
        end
        twice(places)
      end

      def twice(places)
        places.each_with_index do |place, index|
          next if places.index(place) == index

          errors.add(:areas, Words.of(:place_twice), pointer: "/areas/#{index}")
        end
      end
    end
  end
end
