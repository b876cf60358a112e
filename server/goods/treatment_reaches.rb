# frozen_string_literal: true

module Server
  # What treatments reach in the catalogue: what they sit on, its variants, and the goods of the classes they sit on.
  module TreatmentReaches
    # Names of each that are told.
    NAMES = 3
    # Each row of the catalogue once for each treatment, by one index after the other.
    REACHED = <<~SQL
      SELECT targets.treatment_id, products.id FROM treatment_targets AS targets
        JOIN products ON products.id = targets.product_id
      UNION SELECT targets.treatment_id, products.id FROM treatment_targets AS targets
        JOIN products ON products.parent_id = targets.product_id
      UNION SELECT targets.treatment_id, products.id FROM treatment_targets AS targets
        JOIN products ON products.shipping_class_id = targets.shipping_class_id
      UNION SELECT targets.treatment_id, products.id FROM treatment_targets AS targets
        JOIN products AS parents ON parents.shipping_class_id = targets.shipping_class_id
        JOIN products ON products.parent_id = parents.id AND products.shipping_class_id IS NULL
    SQL
    FIRST = <<~SQL.freeze
      WITH reached(treatment_id, product_id) AS (#{REACHED}), placed AS (
        SELECT treatment_id, products.name, count(*) OVER (PARTITION BY treatment_id) AS total,
          row_number() OVER (PARTITION BY treatment_id ORDER BY products.family, products.position, products.id) AS place
        FROM reached JOIN products ON products.id = reached.product_id)
      SELECT treatment_id, name, total FROM placed WHERE place <= #{NAMES} ORDER BY place
    SQL
    private_constant :NAMES, :REACHED, :FIRST

    # @return [Array<Hash>] for each treatment in its order, how many rows of the catalogue it reaches, and the first
    def self.list
      found = Records::Treatment.connection.select_rows(FIRST).group_by(&:first)
      Records::Treatment.order(:position, :id).pluck(:id).map do |id|
        rows = found.fetch(id, [])
        { id: id, count: rows.first&.last.to_i, names: rows.map { |_, name, _| name } }
      end
    end
  end
end
