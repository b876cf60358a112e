# frozen_string_literal: true

module Server
  # The questions that the reading of a file of goods, or the preview of a bulk change, has about the shop's goods. The
  # reading runs in a child process without a database; it sends its questions to the server.
  class GoodsInShop
    # How many rows are asked for at once.
    MANY = 500
    # How many SKUs are asked for at once.
    PAGE = 5000

    # @return [Records::GoodsFields]
    def fields = Records::GoodsFields.new.whole

    # @param after [String] the id that the last answer ended with; an empty one at first
    # @return [Array<Array(String, String, String)>] id, SKU and the id of its product, of the goods that come next
    def skus(after)
      Records::Product.where("id > ?", after).order(:id).limit(PAGE).pluck(:id, :sku, :parent_id)
    end

    # @param ids [Array<String>]
    # @return [Array<Hash>] as {GoodsRows.of}
    def rows(ids) = GoodsRows.of(Records::Product.where(id: ids))

    # @param ids [Array<String>] of products
    # @return [Hash{String => Integer}] the place of the last variant, for those that have any
    def last_places(ids) = Records::Product.where(parent_id: ids).group(:parent_id).maximum(:position)

    # @return [Integer]
    def last_family = Records::Product.maximum(:family).to_i

    # @return [Integer]
    def last_class = Records::ShippingClass.last_position

    # @param scope [Hash] `ids`, or what {GoodsQuery} takes
    # @return [Array<String>] ids in the order that was asked for
    # @raise [Problem] 422 for a filter or an order that is not there
    def found(scope) = scope["ids"]&.uniq || GoodsQuery.new(scope).relation.pluck("products.id")

    # @param treatment [String] id
    # @param products [Array<String>] ids
    # @return [Array<Hash>] as {TreatmentTargets.on}
    def targets(treatment, products) = TreatmentTargets.on(treatment, products)

    QUESTIONS = public_instance_methods(false).freeze

    # @param question [Array] a name of {QUESTIONS}, and what goes with it
    # @return [Object]
    def answer(question) = public_send(*question)

    # The same for the child process: each question goes to the server.
    class Asked
      # @param ask [#call]
      def initialize(ask)
        @ask = ask
      end

      QUESTIONS.each { |name| define_method(name) { |*more| @ask.call([name, *more]) } }
    end
  end
end
