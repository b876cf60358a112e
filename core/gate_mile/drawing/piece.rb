# frozen_string_literal: true

module GateMile
  # A stretch of a price line. from, to: positions, both inside it where from_in and to_in say so; price, last:
  # {Money} at its beginning and at its end, nil where there is none; status and causes: as of a {MethodQuote}, or the
  # status :unlooked where nobody has looked; sampled:
  # whether only its ends are known, because carriers were asked there.
  class Piece < Value.of(:from, :to, :from_in, :to_in, :price, :last, :status, :causes, :sampled)
    # @return [Boolean]
    def level? = price == last
  end
end
