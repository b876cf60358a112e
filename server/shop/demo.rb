# frozen_string_literal: true

module Server
  # The demo shop: its book, and goods, treatments and proofs in the tables that merchants import.
  module Demo
    FOLDER = File.join(ROOT, "demo")

    # Fills an empty database.
    # @return [void]
    def self.load
      book = JSON.parse(read("book.json"))
      shops = Settings.demo_shops
      book["store"]["storefront"] = { "open" => true, "origins" => shops, "page" => "#{shops.first}/try" }
      BookRecords.write(book, opening_cart: JSON.parse(read("cart.json")))
      accounts
      History.unrecorded do
        products = read("products.csv")
        done = GoodsImport.new(products, GoodsCsv.head(products)[:mapping]).run(into: self)
        treated = TreatmentsCsv.new(read("treatments.csv")).read(store: true)
        proofs = ProofsCsv.new(read("proofs.csv")).read(store: true) { |_, _| nil }
        faults = done[:faults] + treated[:faults] + proofs[:faults]
        raise "the demo has faults: #{faults.inspect}" if faults.any?
      end
    end

    # Takes what an import writes, all of it at once.
    # @yieldreturn [Array<Array>] table, id, and the row before and after
    # @return [void]
    def self.write
      yield.group_by(&:first).each { |table, changes| History.write(table, changes.map { |_, *change| change }) }
    end

    # The demo's carriers are stand-ins on this machine; they take any secret.
    def self.accounts
      History.unrecorded do
        Records::Store.current.update!(holiday_region: "gb_eng")
        Records::Carrier.find_each do |carrier|
          carrier.update!(address: "#{Settings.demo_carriers}/#{carrier.id}", account: "TARROW", secret: "quay")
        end
      end
    end

    # Publishes the demo, and makes the key that its shop asks with, beside the database and readable by its owner
    # alone.
    # @return [void]
    def self.open_door
      shelf = BookShelf.new
      publishing = Publishing.new(shelf: shelf, suite: ProofSuite.new(shelf), releases: ReleaseShelf.new)
      publishing.publish({ "revision" => Records::Store.revision, "note" => "The demo as it comes" })
      said = { "name" => "The demo shop’s server", "public" => false, "origins" => [], "pace" => 6000,
               "calls" => %w[quotes orders methods served offers] }
      key = Database.write { KeyRing.make(said).last }
      File.write(keys_file, JSON.generate(server: key), perm: 0o600)
    end

    # @return [String] where its shop finds its key
    def self.keys_file = File.join(File.dirname(Settings.database), "demo-shop.json")

    def self.read(name) = File.read(File.join(FOLDER, name), encoding: "UTF-8")
    private_class_method :read, :accounts
  end
end
