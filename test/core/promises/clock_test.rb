# frozen_string_literal: true

require_relative "../../support/core"

# The store's clock and its calendar in whole numbers, against TZInfo and the standard library's dates.
class ClockTest < Minitest::Test
  include CoreSupport

  ZONES = %w[Europe/London America/New_York Australia/Lord_Howe Asia/Kathmandu Africa/Casablanca Pacific/Apia UTC].freeze

  # IANA tzdata, through TZInfo: around every change of the clocks of some years, and anywhere.
  def test_the_clock_shows_what_tzinfo_says
    random = Random.new(3)
    ZONES.each do |name|
      zone = TZInfo::Timezone.get(name)
      changes = zone.transitions_up_to(Time.utc(2031), Time.utc(2009)).map { |change| change.at.to_time.to_i }
      near = changes.flat_map { |at| [-1, 0, 1, 3599, 3600].map { |by| at + by } }
      clock = GateMile::Clock.new(name)
      (near + Array.new(150) { random.rand(Time.utc(2009).to_i..Time.utc(2031).to_i) }).shuffle(random: random).each do |seconds|
        shown = zone.to_local(Time.at(seconds).utc)
        read = clock.read(Time.at(seconds))
        assert_equal [shown.to_date, (shown.hour * 60) + shown.min], [read.date, read.minute], "#{name} #{Time.at(seconds).utc}"
        assert_equal [shown.to_date.cwday, shown.strftime("%H:%M")], [read.weekday, read.time]
      end
    end
  end

  def test_days_are_those_of_the_calendar
    (Date.new(1969, 12, 25)..Date.new(1970, 1, 9)).each { |date| counted(date) }
    random = Random.new(4)
    500.times { counted(Date.new(2000, 1, 1) + random.rand(40_000)) }
    assert_equal([true, false, false, false], ["2028-02-29", "2026-02-29", "2026-2-1", "26-02-01"].map { |text| GateMile::Calendar.date?(text) })
  end

  # When an order leaves and when it arrives, day by day from the documents.
  def test_business_days_against_counting_them
    random = Random.new(5)
    Rounds.of(300).times do
      first = Date.new(2026, 1, 1) + random.rand(700)
      holidays = Array.new(random.rand(0..20)) { (first + random.rand(30)).iso8601 }
      calendar = GateMile::Calendar.new(holidays)
      days = (1..7).to_a.sample(random.rand(1..7), random: random).sort
      delivery = GateMile::Delivery.new(collection_days: days, cutoff: [nil, "11:30"].sample(random: random))
      minute = random.rand(1440)
      now = GateMile::Clock::Reading.new(GateMile::Calendar.day(first), minute)
      start = delivery.cutoff && minute >= 690 ? first + 1 : first
      leaves = (start..(start + 60)).find { |date| days.include?(date.cwday) && !holidays.include?(date.iso8601) }
      assert_equal leaves, GateMile::Calendar.date(calendar.leaves(delivery, now))
      count = random.rand(0..9)
      business = leaves
      count.times { business = ((business + 1)..(business + 60)).find { |date| date.cwday <= 5 && !holidays.include?(date.iso8601) } }
      assert_equal business, GateMile::Calendar.date(calendar.after(GateMile::Calendar.day(leaves), count))
    end
  end

  # A shop that never collects: the day itself is told, rather than nothing being said for ever.
  def test_goods_that_never_leave
    every = (0..70).map { |day| (Date.new(2026, 6, 1) + day).iso8601 }
    day = GateMile::Calendar.day(Date.new(2026, 6, 1))
    leaves = GateMile::Calendar.new(every).leaves(GateMile::Delivery::USUAL, GateMile::Clock::Reading.new(day, 0))
    assert_equal day, leaves
  end

  def test_hours_of_a_method
    open = ->(from, till, at) { GateMile::Delivery.new(opens: from, closes: till).shut(GateMile::Delivery.minute(at)) }
    assert_equal([nil, nil, :closed, :closed], %w[08:00 12:59 13:00 07:59].map { |at| open.call("08:00", "13:00", at) })
    assert_equal [nil, nil, :closed], %w[22:00 05:59 06:00].map { |at| open.call("22:00", "06:00", at) }, "over midnight"
    hidden = GateMile::Delivery.new(cutoff: "14:00", hide: true)
    assert_equal([nil, :after_cutoff], %w[13:59 14:00].map { |at| hidden.shut(GateMile::Delivery.minute(at)) })
    assert_equal [true, true, false], [GateMile::Delivery.new(opens: "08:00", closes: "09:00"), hidden, GateMile::Delivery.new(cutoff: "14:00")].map(&:limited?)
  end

  private

  def counted(date)
    day = GateMile::Calendar.day(date)
    assert_equal [date, date.cwday], [GateMile::Calendar.date(day), GateMile::Calendar.weekday(day)]
  end
end
