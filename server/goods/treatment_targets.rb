# frozen_string_literal: true

module Server
  # What treatments sit on, put there and taken away by many at once: as changes for {History.write}.
  module TreatmentTargets
    class << self
      # @param treatment [String, nil] id
      # @param products [Array<String>] ids
      # @return [Array<Hash>] rows of its targets that are one of these
      def on(treatment, products)
        return [] if treatment.nil?

        products.each_slice(500).flat_map { |slice| rows(Records::TreatmentTarget.where(treatment_id: treatment, product_id: slice)) }
      end

      # @param relation [ActiveRecord::Relation] of targets
      # @return [Array<Hash>] as the database holds them
      def rows(relation) = ActiveRecord::Base.connection.select_all(relation.to_sql).to_a

      # @param treatment [String] id
      # @param columns [Hash] product_id or shipping_class_id => ids
      # @return [Array<Array>]
      def come(treatment, columns)
        columns.flat_map do |column, ids|
          ids.map do |on|
            id = Records::Base.new_id
            [id, nil, { "id" => id, "treatment_id" => treatment, "product_id" => nil, "shipping_class_id" => nil,
                        column.to_s => on }]
          end
        end
      end

      # @param rows [Array<Hash>]
      # @return [Array<Array>]
      def gone(rows) = rows.map { |row| [row["id"], row, nil] }
    end
  end
end
