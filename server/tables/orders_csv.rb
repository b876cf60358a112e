# frozen_string_literal: true

require "csv"

module Server
  # Orders as a table: out only, for accounts and for looking back.
  module OrdersCsv
    COLUMNS = %w[order placed state zone method code price currency release quoted closed offers].freeze

    class << self
      # @return [String] CSV, the newest first
      def write
        zones = Records::Zone.pluck(:id, :name).to_h
        offers = Records::Offer.pluck(:id, :name).to_h
        CSV.generate(**Cells::OUT) do |csv|
          csv << COLUMNS
          Records::Order.includes(:offers).order(placed_at: :desc, number: :desc).each do |order|
            csv << row(order, zones, offers)
          end
        end
      end

      private

      def row(order, zones, offers)
        used = order.offers.map { |one| offers.fetch(one.offer, one.offer) }.join("; ")
        [order.number, moment(order.placed_at), order.state, zones.fetch(order.zone, order.zone), order.method_name,
         order.method_code, order.price, order.currency, order.release_id, moment(order.quoted_at),
         moment(order.closed_at), used]
      end

      def moment(time) = time&.utc&.iso8601
    end
  end
end
