# frozen_string_literal: true

module Server
  # What treatments sit on, put there and taken away by many at once: as changes for {History.write}.
  module TreatmentTargets
    class << self
      # @param treatment [String, nil] id
      # @param products [Array<String>] ids
      # @return [Array<Records::TreatmentTarget>] those of the treatment that sit on one of these
      def on(treatment, products)
        return [] if treatment.nil?

        products.each_slice(500).flat_map do |slice|
          Records::TreatmentTarget.where(treatment_id: treatment, product_id: slice).to_a
        end
      end

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

      # @param targets [Array<Records::TreatmentTarget>]
      # @return [Array<Array>]
      def gone(targets) = targets.map { |target| [target.id, History.row(target), nil] }
    end
  end
end
