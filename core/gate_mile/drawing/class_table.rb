# frozen_string_literal: true

module GateMile
  # What each class of goods costs by every rate of every zone: for one, two and five units of goods of the class.
  class ClassTable
    UNITS = [1, 2, 5].freeze

    # rate: id; prices: by class id (nil for goods without one) a list of {Money}, or the code of why there is none.
    Row = Struct.new(:rate, :prices)

    # @param book [Book]
    def initialize(book)
      @book = book
      @alone = Alone.new(book)
    end

    # @return [Hash{String, nil => Article}] an example of each class, the one that weighs in the middle
    def examples
      @examples ||= Alone.goods(@book).group_by(&:shipping_class).transform_values do |list|
        list.sort_by { |article| article.weight ? article.weight.base : 0 }[list.size / 2]
      end
    end

    # @return [Array<Row>]
    def rows = @book.rates.select(&:plan).map { |rate| Row.new(rate.id, priced(rate)) }

    private

    def priced(rate)
      examples.transform_values do |article|
        UNITS.map do |units|
          found = @alone.ordinary(rate, article, units)
          found.is_a?(Refusal) ? found.code : found
        end
      end
    end
  end
end
