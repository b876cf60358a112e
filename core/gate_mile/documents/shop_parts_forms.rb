# frozen_string_literal: true

module GateMile
  # The parts of the shop's pages in JSON.
  module ShopPartsForms
    ESTIMATE = Form.new(ShopParts::Estimate) do
      choice :ask, among: ShopParts::ASKED
      choice :place, among: ShopParts::PLACES
      flag :more, default: true
    end

    GROUP = Form.new(ShopParts::Group) do
      text :name, most: 80
      texts :methods, most: 50
      check { |reader, group, _| reader.problem("methods", :limit_empty) if group.methods == [] }
    end

    CHOICE = Form.new(ShopParts::Choice) do
      choice :shown, among: ShopParts::SHOWN
      flag :unavailable, default: false
      flag :apart, default: true
      list :groups, GROUP, most: 20
    end

    MILEPOST = Form.new(ShopParts::Milepost) do
      choice :place, among: ShopParts::WHERE
      field(:page) { |reader, _| reader.text("page", required: false, most: 40) || "cart" }
      flag :bar, default: true
    end

    ADDRESS = Form.new(ShopParts::Address) do
      flag :boxes, default: true
    end

    PARTS = Form.new(ShopParts) do
      object :estimate, ESTIMATE, default: ShopParts::USUAL.estimate
      object :choice, CHOICE, default: ShopParts::USUAL.choice
      object :milepost, MILEPOST, default: ShopParts::USUAL.milepost
      object :address, ADDRESS, default: ShopParts::USUAL.address
    end
  end
end
