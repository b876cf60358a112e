# frozen_string_literal: true

module GateMile
  # A named list of areas that share their rates. A zone that is off takes no address, and keeps its settings.
  # nothing_text: the merchant's words to a shopper where nothing is available there, or nil for the store's; duty:
  # {Duty} or nil.
  class Zone < Value.of(:id, :name, :active, :areas, :nothing_text, :duty)
  end
end
