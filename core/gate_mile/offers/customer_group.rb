# frozen_string_literal: true

module GateMile
  # Customers that the shop tells apart, e.g. trade. A cart names one by its name, or none.
  class CustomerGroup < Value.of(:id, :name)
  end
end
