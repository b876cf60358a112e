# frozen_string_literal: true

module Server
  # Compiled books by the revision of the setup: the current one, and the last ones before it, so that prices before
  # and after an edit can stand side by side. A new one takes over from the last what the edits in between left alone.
  #
  # All that is known is one immutable snapshot, exchanged when a book is whole: a book that can't be compiled leaves
  # nothing behind. Books are made one at a time, outside of any transaction; who wants another one does not wait.
  class BookShelf
    KEPT = 12
    # Products that are read together where all of them are.
    GOODS = 1000
    # Tables that are no part of any price.
    BESIDE = %w[proofs sleeping_findings].freeze
    private_constant :BESIDE

    # books: by revision, the newest last; of the newest one, skus: of its products, by their ids; document: what it was
    # made of but for the goods.
    Snapshot = Struct.new(:books, :skus, :document)

    def initialize
      @making = Mutex.new
      @deriving = Mutex.new
      clear
    end

    # @return [Array(Integer, GateMile::Book)] the current revision and its book
    # @raise [Problem] 404 where there is no shop
    def current
      revision = Records::Store.revision
      raise Problem.new(404, "There is no shop yet. Open one first.") if revision.zero?

      book = @snapshot.books[revision]
      book ? [revision, book] : make
    end

    # The same for whoever only quotes: no more of the database is read than the number of the revision.
    # @return [Array(Integer, GateMile::Book)]
    # @raise [Problem] 404 where there is no shop
    def latest
      revision = Revision.now
      book = @snapshot.books[revision] if revision.positive?
      book ? [revision, book] : current
    end

    # @param revision [Integer]
    # @return [GateMile::Book, nil] nil where it is not kept any more
    def at(revision) = @snapshot.books[revision]

    # @return [Array<GateMile::Book>] all that are kept, the newest first
    def kept = @snapshot.books.values.reverse

    # @return [Array<Array(Integer, GateMile::Book)>] every revision that is kept whose one before is kept too: the
    #   number, the book before and the book
    def steps
      current
      @snapshot.books.each_cons(2).filter_map do |(before, old), (after, new)|
        [after, old, new] if after == before + 1
      end
    end

    # What is worked out from the current book, once for each revision, however many ask at the same time.
    # @param name [Symbol]
    # @param also [Object, nil] what else it depends on: another one of it makes it anew
    # @yieldparam book [GateMile::Book]
    # @return [Object] what the block made of it
    def derived(name, also = nil)
      revision, book = current
      key = [revision, also]
      once = @deriving.synchronize do
        kept, there = @derived[name]
        next there if kept == key

        Once.new.tap { |made| @derived = @derived.merge(name => [key, made]) }
      end
      once.value { yield(book) }
    end

    # @return [void]
    def clear
      @snapshot = Snapshot.new({}.freeze, {}.freeze, nil).freeze
      @derived = {}
    end

    # A catalogue that was changed in very many rows is compiled before the change counts, so that nobody waits for it.
    # @param rows [Integer] how many; few are sooner brought up to date when somebody asks
    # @yieldreturn [Integer, nil] the revision with which it counts
    # @return [void]
    def renewed_goods(rows)
      return yield if rows <= Journal::MOST

      skus = {}
      goods = Records::Product.where(parent_id: nil).order(:family, :id).ids.each_slice(GOODS).flat_map do |ids|
        documents = Database.read { CatalogueDocument.products(only: ids) }
        skus.merge!(skus_of(documents))
        products(documents)
      end
      catalogue = GateMile::Catalogue.new(goods)
      @making.synchronize do
        revision = yield
        if revision
          document = Database.read { BookDocument.without_products }
          put(revision, compiled(document, catalogue), skus, document)
        end
      end
    end

    private

    def make
      @making.synchronize { @snapshot.books.empty? ? undisturbed { made } : made }
    end

    def made
      revision, found = Database.read { found_now }
      return [revision, @snapshot.books[revision]] if found.nil?

      book, skus = whole(found)
      put(revision, book, skus, found.document || @snapshot.document)
      [revision, book]
    end

    # The first book is made of everything: of a million objects nearly all stay, and looking for the others in between
    # would take as long again.
    def undisturbed
      running = !GC.disable
      yield
    ensure
      GC.enable if running
    end

    def put(revision, book, skus, document)
      books = @snapshot.books.merge(revision => book).sort.last(KEPT).to_h
      @snapshot = Snapshot.new(books.freeze, skus.freeze, document).freeze
    end

    # What is read of the database: everything, or what the edits since the last book touched.
    Found = Struct.new(:document, :products, :families, :last)
    private_constant :Found

    # @return [Array(Integer, Found)] nil in the place of the second where the book is there already
    def found_now
      revision = Records::Store.revision
      return [revision, nil] if @snapshot.books.key?(revision)

      last, book = @snapshot.books.to_a.last
      touched = last && last < revision ? Journal.between(last, revision) : nil
      return [revision, Found.new(BookDocument.without_products, CatalogueDocument.products)] if touched.nil?

      families = CatalogueDocument.families(touched.products)
      tables = touched.tables - Journal::GOODS - BESIDE
      document = tables.empty? ? nil : BookDocument.without_products(last: @snapshot.document, touched: tables)
      [revision, Found.new(document, families.empty? ? {} : CatalogueDocument.products(only: families), families, book)]
    end

    # @return [Array(GateMile::Book, Hash)] the book, and the SKUs of its products
    def whole(found)
      if found.last.nil?
        return [GateMile::Book.compile(found.document.merge("products" => found.products.values)),
                skus_of(found.products)]
      end

      catalogue, skus = brought_up_to_date(found)
      [found.document ? compiled(found.document, catalogue) : found.last.with(catalogue: catalogue), skus]
    end

    # @return [Array(GateMile::Catalogue, Hash)]
    def brought_up_to_date(found)
      return [found.last.catalogue, @snapshot.skus] if found.families.empty?

      gone = found.families.filter_map { |id| @snapshot.skus[id] }
      [found.last.catalogue.exchange(gone, products(found.products)),
       @snapshot.skus.except(*found.families).merge(skus_of(found.products))]
    end

    # Lets quotes run between two products.
    def products(documents)
      currency = Records::Store.current.money
      documents.each_value.map do |document|
        Thread.pass
        product(document, currency)
      end
    end

    def skus_of(documents) = documents.transform_values { |product| product["sku"] }
    def compiled(document, catalogue) = GateMile::Book.compile(document, catalogue: catalogue)

    def product(document, currency)
      reader = GateMile::Reader.open(document)
      product = GateMile::Documents.read(GateMile::Product, reader, currency)
      raise GateMile::Invalid, reader.problems if reader.problems.any?

      product
    end
  end
end
