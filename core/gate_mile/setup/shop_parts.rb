# frozen_string_literal: true

module GateMile
  # How the parts that stand on the shop's own pages behave: estimate, choice, milepost and address say so, each a value
  # of its own.
  class ShopParts < Value.of(:estimate, :choice, :milepost, :address)
    # ask: "press" asks when a button is pressed, "open" as soon as a country is known; place: "here", behind a "tab" or
    # in a "dialog"; more: whether it says how many more make delivery free.
    Estimate = Value.of(:ask, :place, :more)
    # shown: a "list" or a "menu"; unavailable: whether methods that don't take the cart are listed with the reason;
    # apart: whether it says which goods keep a basket from being sent, and what there is without them;
    # groups: {Group}s.
    Choice = Value.of(:shown, :unavailable, :apart, :groups)
    # Methods of several carriers that are one choice: the cheapest of them that is there. name: what the shopper
    # reads; methods: ids.
    Group = Value.of(:name, :methods)
    # place: "here", or along the "top" of the page; page: its kind; bar: whether a bar shows how far the cart is.
    Milepost = Value.of(:place, :page, :bar)
    # boxes: whether a post office box is told while it is typed.
    Address = Value.of(:boxes)

    ASKED = %w[press open].freeze
    PLACES = %w[here tab dialog].freeze
    SHOWN = %w[list menu].freeze
    WHERE = %w[here top].freeze

    USUAL = new(estimate: Estimate.new(ask: "press", place: "here", more: true),
                choice: Choice.new(shown: "list", unavailable: false, apart: true, groups: [].freeze),
                milepost: Milepost.new(place: "here", page: "cart", bar: true), address: Address.new(boxes: true))
  end
end
