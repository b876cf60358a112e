# frozen_string_literal: true

require_relative "core"

# Single changes of a book document: an amount, an edge, a percentage, a moment or a switch becomes another one. Each is
# the whole document with that change.
module MutationsSupport
  AMOUNTS = %w[amount each first additional minimum maximum fixed most].freeze
  EDGES = %w[at from below over up_to].freeze
  SWITCHES = %w[active hides_paid combines own_prices paying_count unclassed carried].freeze
  # Switches that a document leaves out while they are as usual.
  LEFT_OUT = { "active" => true, "hides_paid" => false, "combines" => false }.freeze

  # @param document [Hash]
  # @param parts [Array<String>] lists of the book that are changed
  # @return [Array<Array(String, Hash)>] where, and the changed document; those that are no book are left out
  def mutations(document, parts)
    parts.flat_map { |part| Array(document[part]).each_index.flat_map { |at| leaves(document[part][at], [part, at]) } }
         .flat_map { |path, value| changed(path, value).map { |other| [path, other] } }
         .concat(switched(document, parts))
         .filter_map { |path, other| [path.join("/"), put(document, path, other)] }
         .select { |_, mutant| readable?(mutant) }
  end

  private

  def leaves(value, path)
    case value
    when Hash then value.flat_map { |key, one| leaves(one, path + [key]) }
    when Array then value.each_with_index.flat_map { |one, at| leaves(one, path + [at]) }
    else [[path, value]]
    end
  end

  def changed(path, value)
    key = path.reverse.find { |part| part.is_a?(String) }
    return [!value] if [true, false].include?(value) && SWITCHES.include?(key)
    return [more(value, 0.07)] if (AMOUNTS.include?(key) || key == "cells") && money?(value)
    return [more(value, 1.5)] if key == "percent"
    return moved(value) if %w[starts ends].include?(key)
    return edges(value) if EDGES.include?(key) && path.last != "zones"

    value == "from" ? ["up_to"] : []
  end

  def money?(value) = value.is_a?(String) && value.match?(/\A-?[\d.]+\z/)
  def more(value, by) = format("%.2f", value.to_r + by.to_r)
  def moved(value) = [-1, 1].map { |by| GateMile::Clockwork.shifted(value, by) }

  def edges(value)
    return [value + 1] if value.is_a?(Integer)
    return [] unless value.is_a?(String) && (match = value.match(/\A([\d.]+)\s*([a-z]*)\z/)) && match[1].to_r.positive?

    [match[2].empty? && !value.include?(".") ? (value.to_i + 1).to_s : "#{format("%.3f", match[1].to_r * 1.03).sub(/\.?0+\z/, "")} #{match[2]}".strip]
  end

  def switched(document, parts)
    parts.flat_map do |part|
      Array(document[part]).each_with_index.flat_map do |item, at|
        LEFT_OUT.filter_map { |key, usual| [[part, at, key], !usual] if !item.key?(key) && (key == "active" || part == "offers") }
      end
    end
  end

  def put(document, path, value)
    copy = Marshal.load(Marshal.dump(document))
    path[0..-2].inject(copy) { |inner, part| inner[part] }[path.last] = value
    copy
  end

  def readable?(document)
    GateMile::Book.compile(document)
  rescue GateMile::Invalid
    false
  end
end
