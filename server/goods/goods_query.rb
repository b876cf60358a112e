# frozen_string_literal: true

module Server
  # Which products and variants are meant: by words of name or SKU, by filters, in an order. What a variant has from its
  # product counts as its own.
  class GoodsQuery
    # Columns that a variant may leave to its product, as one expression.
    INHERITED = %w[price_minor weight_ng length width height shipping_class_id].to_h do |column|
      [column, "coalesce(products.#{column}, parents.#{column})"]
    end.freeze
    SHIPS = "(CASE WHEN products.parent_id IS NULL THEN products.ships ELSE parents.ships END)"
    HAZARD = "(CASE WHEN products.parent_id IS NULL THEN products.hazardous ELSE parents.hazardous END)"
    TREATED = "EXISTS (SELECT 1 FROM treatment_targets AS on_it WHERE (on_it.product_id IN (products.id, parents.id) " \
              "OR on_it.shipping_class_id = #{INHERITED["shipping_class_id"]})%<more>s)".freeze
    FILTERS = { "no_weight" => "#{INHERITED["weight_ng"]} IS NULL AND #{SHIPS}",
                "no_size" => "#{INHERITED["length"]} IS NULL AND #{SHIPS}",
                "no_class" => "#{INHERITED["shipping_class_id"]} IS NULL",
                "treated" => format(TREATED, more: ""), "hazardous" => HAZARD, "no_shipping" => "NOT #{SHIPS}",
                "variants" => "products.parent_id IS NOT NULL" }.freeze
    SORTS = { "sku" => "lower(products.sku)", "name" => "lower(products.name)", "price" => INHERITED["price_minor"],
              "weight" => INHERITED["weight_ng"], "class" => "lower(classes.name)" }.freeze
    # More rows than this are many.
    MANY = 400
    PARENTS = "LEFT JOIN products AS parents ON parents.id = products.parent_id"
    CLASSES = "LEFT JOIN shipping_classes AS classes ON classes.id = #{INHERITED["shipping_class_id"]}".freeze
    private_constant :INHERITED, :SHIPS, :HAZARD, :TREATED, :MANY, :PARENTS, :CLASSES

    # @param asked [Hash] as in the contract: q, filter, class, tag, treatment, sort, descending
    # @raise [Problem] 422 for a filter or an order that is not there
    def initialize(asked)
      @words = asked["q"].to_s.split.first(8)
      @filters = asked["filter"].to_s.split(",")
      @values = asked.slice("class", "tag", "treatment").compact_blank
      @sort = asked["sort"].presence
      @descending = [true, "true"].include?(asked["descending"])
      refuse("/filter") if (@filters - FILTERS.keys).any?
      refuse("/sort") unless @sort.nil? || SORTS.key?(@sort)
    end

    # @return [ActiveRecord::Relation] in the order that was asked for
    def relation
      way = @descending ? "DESC" : "ASC"
      first = @sort ? [Arel.sql("#{SORTS[@sort]} IS NULL"), Arel.sql("#{SORTS[@sort]} #{way}")] : []
      found(walking: @sort.nil? && count > MANY).order(*first, :family, :position, :id)
    end

    # @return [Integer]
    def count = @count ||= words_alone? ? matching : found.count

    private

    def words_alone? = @filters.none? && @values.none? && @words.any? && @words.all? { |word| word.length > 2 }

    def matching
      index = "SELECT count(*) FROM goods_index WHERE goods_index MATCH ?"
      Records::Product.connection.select_value(Records::Product.sanitize_sql([index, match(@words)]))
    end

    # @param walking [Boolean] where much is found, its first rows are found sooner by walking through the catalogue's
    #   order than by sorting all of it; the plus keeps SQLite from looking the rows up one by one
    def found(walking: false)
      relation = @filters.inject(worded(walking ? "+" : "")) { |so_far, filter| so_far.where(FILTERS[filter]) }
      relation = valued(relation)
      return relation unless @filters.any? || @values.any? || @sort

      relation = relation.joins(PARENTS)
      @sort == "class" ? relation.joins(CLASSES) : relation
    end

    # The index knows pieces of three characters and more; shorter ones are looked for row by row.
    def worded(plus)
      long, short = @words.partition { |word| word.length > 2 }
      relation = Records::Product.all
      if long.any?
        index = "#{plus}products.rowid IN (SELECT rowid FROM goods_index WHERE goods_index MATCH ?)"
        relation = relation.where(index, match(long))
      end
      short.inject(relation) do |so_far, word|
        so_far.where("products.name LIKE :word ESCAPE '\\' OR products.sku LIKE :word ESCAPE '\\'",
                     word: "%#{Records::Product.sanitize_sql_like(word)}%")
      end
    end

    def match(words) = words.map { |word| "\"#{word.gsub("\"", "\"\"")}\"" }.join(" AND ")

    def valued(relation)
      relation = relation.where("#{INHERITED["shipping_class_id"]} = ?", @values["class"]) if @values["class"]
      if @values["tag"]
        tags = "coalesce(parents.tags, products.tags)"
        relation = relation.where("EXISTS (SELECT 1 FROM json_each(#{tags}) WHERE lower(value) = ?)",
                                  GateMile::Product.fold(@values["tag"]))
      end
      return relation unless @values["treatment"]

      relation.where(format(TREATED, more: " AND on_it.treatment_id = ?"), @values["treatment"])
    end

    def refuse(pointer)
      raise Problem.at(pointer, :not_one_of, choices: (pointer == "/sort" ? SORTS : FILTERS).keys.join(", "))
    end
  end
end
