# frozen_string_literal: true

module GateMile
  # When something arrives. days: [least, most] business days on the way; on: the first and the last day, as a
  # {Calendar} counts them.
  Arrival = Struct.new(:days, :on) do
    # @return [Array(Date, Date)]
    def dates = on.map { |day| Calendar.date(day) }

    # @return [Integer]
    def last_day = on.last
  end
end
