# frozen_string_literal: true

# What the shop asks the door for its pages; while it is away there is nothing, and no page fails.
module Asking
  # What a cart gets; nil where the door is away.
  def quote(cart)
    body = { "cart" => cart }
    body["trial"] = basket.trial[:id] if basket.trial
    delivery.post("quotes", body)
  rescue Delivery::Away
    nil
  rescue Delivery::Refused => e
    # What is wrong with the cart is told as it was said; a trial that is over ends here.
    basket.leave if e.status == 404
    { "status" => "refused", "methods" => [], "text" => e.message }
  end

  # Countries to choose from for pages without scripts, by code; nothing where the door is away.
  def served
    delivery.get(tried("served"))["countries"].reject { |one| one["served"] == "none" }.map { |one| one["country"] }
  rescue Delivery::Away, Delivery::Refused
    []
  end

  # @param call [String]
  # @return [String] the same by what is tried, where something is
  def tried(call) = basket.trial ? "#{call}?trial=#{basket.trial[:id]}" : call
end
