# frozen_string_literal: true

module Server
  module Records
    # A zone and its areas.
    class Zone < Base
      says :name, :active, :nothing_text, :duty

      has_many :areas, -> { order(:position) }, dependent: :destroy, autosave: true, inverse_of: :zone
      has_many :rates, -> { order(:position, :id) }, dependent: :destroy, inverse_of: :zone

      words :name
      unlike_others :name, "zone has this name"
      before_destroy { Treatment.forget("zones", id) }
      before_destroy { [Offer, Rule].each { |model| model.forget("zone", id) } }
      validate :duty_readable
      validate { areas.each_with_index { |area, index| lift(area, index) if area.changed? && !area.valid? } }

      # Adds areas at the end.
      # @param list [Array<Hash>] areas of the contract: clauses may be lists or pasted text
      # @return [Array<Area>]
      def add(list)
        last = areas.map(&:position).max.to_i
        list.each.with_index(1).map do |fields, index|
          pasted, plain = fields.partition do |name, value|
            Area::CLAUSES.include?(name) && value.is_a?(String)
          end.map(&:to_h)
          area = areas.build(plain.merge("position" => last + index))
          pasted.each { |name, text| area.paste(name, text) }
          area
        end
      end

      # @param changes [Hash]
      # @return [Zone] with areas of its own
      def copied(**changes) = super.tap { |copy| copy.add(areas.map(&:document)) }

      # Raises the lock version though the row itself stays as it is: its areas have changed.
      # @return [void]
      def touch_lock = position_will_change!

      # @return [Hash] as in a book document
      def document(areas: true)
        fields = { "id" => id, **said, "nothing_text" => nothing_text.presence }
        areas ? fields.merge("areas" => self.areas.sort_by(&:position).map(&:document)) : fields
      end

      private

      def duty_readable
        return if duty.nil?

        reader = GateMile::Reader.new({ "duty" => duty })
        read = GateMile::Documents.read(GateMile::Duty, reader.object("duty"), Store.current.money)
        reader.problems.each { |one| errors.add(:duty, Words.of(one.code, **one.numbers), pointer: one.pointer) }
        self.duty = GateMile::Documents.write(read) if reader.problems.empty?
      end

      # An area's errors, told where the area stands in the list of those that were sent.
      def lift(area, index)
        offset = areas.count(&:persisted?)
        area.errors.each do |error|
          errors.add(:areas, error.message, pointer: "/areas/#{index - offset}#{error.options[:pointer]}")
        end
      end
    end
  end
end
