# frozen_string_literal: true

module Server
  module Records
    # A method that shoppers choose.
    class ShippingMethod < Base
      says :code, :name, :private_name, :promise, :active, :kind, :address, :hours, :delivery

      has_many :rates, dependent: :destroy

      before_destroy { Treatment.forget("methods", id) }
      before_destroy { [Offer, Rule].each { |model| model.forget("method", id) } }

      words :code, most: 40, required: false
      words :name
      words :private_name, required: false
      words :promise, required: false
      words :hours, required: false
      normalizes :address, with: ->(text) { text.strip.presence }
      validates :address, length: { maximum: 300 }
      unlike_others :code, "method has this code"
      validates :code, presence: { message: Words.of(:missing) }, if: -> { name.present? }
      validate :delivery_readable
      before_validation { self.code = free_code if code.blank? && name.present? }

      # @return [Hash] as in a book document
      def document = { "id" => id, **said }

      # @param changes [Hash]
      # @return [ShippingMethod] with a code of its own
      def copied(**changes) = super(code: nil, **changes)

      private

      def delivery_readable
        return if delivery.nil?

        reader = GateMile::Reader.new({ "delivery" => delivery })
        read = GateMile::Documents.read(GateMile::Delivery, reader.object("delivery"))
        reader.problems.each { |one| errors.add(:delivery, Words.of(one.code, **one.numbers), pointer: one.pointer) }
        self.delivery = GateMile::Documents.write(read).presence if reader.problems.empty?
      end

      # A code made of the name: the merchant can type a better one.
      def free_code
        stem = name.unicode_normalize(:nfkd).upcase.gsub(/[^A-Z0-9]+/, "-").gsub(/\A-|-\z/, "")[0,
                                                                                                30].presence || "METHOD"
        taken = self.class.pluck(:code).to_set(&:upcase)
        [stem, *(2..).lazy.map do |number|
          "#{stem}-#{number}"
        end.first(taken.size + 1)].find { |code| !taken.include?(code) }
      end
    end
  end
end
