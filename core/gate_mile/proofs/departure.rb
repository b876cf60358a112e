# frozen_string_literal: true

module GateMile
  # One thing in which what a cart gets is not what it is to get.
  #
  # code: :status, :zone, :text, :price, :gone (a method that is to be offered and is not), :offered (one that is not to
  # be, and is), :order, :mark or :message; method_id: of the method that it is about, or nil; wanted, gets: what
  # belongs to it, as {Plain} writes it.
  class Departure < Value.of(:code, :method_id, :wanted, :gets)
    # @return [Hash] for JSON
    def dump
      { "code" => code.name, "method" => method_id, "wanted" => Plain.of(wanted), "gets" => Plain.of(gets) }.compact
    end
  end
end
