# frozen_string_literal: true

module Server
  # Compiled books by the revision of the setup: the current one, and the last ones before it, so that prices before
  # and after an edit can stand side by side.
  class BookShelf
    KEPT = 12

    def initialize
      @books = {}
      @derived = {}
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
    # @yieldparam book [GateMile::Book]
    # @return [Object] what the block made of it
    def derived(name)
      revision, book = current
      kept, value = @derived[name]
      return value if kept == revision

      yield(book).tap { |made| @derived[name] = [revision, made] }
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
        revision, document = ActiveRecord::Base.transaction do
          raise Problem.new(404, "There is no shop yet. Open one first.") if Records::Store.revision.zero?

          [Records::Store.revision, BookDocument.read]
        end
        book = @books[revision] || GateMile::Book.compile(document)
        @books = @books.merge(revision => book).to_a.last(KEPT).to_h
        [revision, book]
      end
    end
  end
end
