# frozen_string_literal: true

module Server
  # Opens a shop: the store and its first two zones. The second one covers all other countries and is off until it has a
  # rate.
  module Opening
    # @param fields [Hash] a StoreDraft of the contract
    # @return [Records::Store]
    # @raise [Problem] 422
    def self.shop(fields)
      History.unrecorded do
        store = Records::Store.new({ "method_order" => "price" }.merge(fields).merge("id" => 1))
        raise Problem.of_record(store) unless store.save

        zone(Choices.country_name(store.country), true, { "kind" => "country", "country" => store.country })
        zone("All other countries", false, { "kind" => "world" })
        store
      end
    end

    def self.zone(name, active, area)
      Records::Zone.new(name: name, active: active).tap { |zone| zone.add([area]) }.save!
    end
    private_class_method :zone
  end
end
