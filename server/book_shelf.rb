# frozen_string_literal: true

module Server
  # Compiled books by the revision of the setup: the current one, and the last ones before it, so that prices before
  # and after an edit can stand side by side. A new one takes over from the last what the edits in between left alone.
  class BookShelf
    KEPT = 12

    def initialize
      @books = {}
      @derived = {}
      @skus = {}
      @lock = Mutex.new
    end

    # @return [Array(Integer, GateMile::Book)] the current revision and its book
    def current
      revision = Records::Store.revision
      book = @books[revision]
      book ? [revision, book] : load
    end

    # @param revision [Integer]
    # @return [GateMile::Book, nil] nil where it is not kept any more
    def at(revision) = @books[revision]

    # What is worked out from the current book, once for each revision.
    # @param name [Symbol]
    # @param also [Object, nil] what else it depends on: another one of it makes it anew
    # @yieldparam book [GateMile::Book]
    # @return [Object] what the block made of it
    def derived(name, also = nil)
      revision, book = current
      kept, value = @derived[name]
      return value if kept == [revision, also]

      yield(book).tap { |made| @derived[name] = [[revision, also], made] }
    end

    # @return [void]
    def clear
      @lock.synchronize do
        @books = {}
        @derived = {}
      end
    end

    private

    def load
      @lock.synchronize do
        revision, book = ActiveRecord::Base.transaction do
          revision = Records::Store.revision
          raise Problem.new(404, "There is no shop yet. Open one first.") if revision.zero?

          [revision, @books[revision] || made(revision)]
        end
        @books = @books.merge(revision => book).to_a.last(KEPT).to_h
        [revision, book]
      end
    end

    def made(revision)
      last, book = @books.to_a.last
      touched = last && Journal.between(last, revision)
      return anew unless touched

      catalogue = brought_up_to_date(book.catalogue, touched.products)
      return book.with(catalogue: catalogue) if (touched.tables - Journal::GOODS).empty?

      GateMile::Book.compile(BookDocument.without_products, catalogue: catalogue)
    end

    def anew
      documents = CatalogueDocument.products
      @skus = documents.transform_values { |product| product["sku"] }
      GateMile::Book.compile(BookDocument.without_products.merge("products" => documents.values))
    end

    # @return [GateMile::Catalogue]
    def brought_up_to_date(catalogue, ids)
      return catalogue if ids.empty?

      families = CatalogueDocument.families(ids)
      documents = CatalogueDocument.products(only: families)
      gone = families.filter_map { |id| @skus[id] }
      @skus = @skus.except(*families).merge(documents.transform_values { |product| product["sku"] })
      catalogue.exchange(gone, documents.values.map { |document| compiled(document) })
    end

    def compiled(document)
      reader = GateMile::Reader.new(document)
      product = GateMile::Product.read(reader, Records::Store.current.money)
      reader.finish
      raise GateMile::Invalid, reader.problems if reader.problems.any?

      product
    end
  end
end
