# frozen_string_literal: true

module Server
  # A backup each night, without keys: those of the last seven nights are kept, and before that one of each week (that
  # of its Monday) for eight weeks.
  class Nightly
    # The hour of the store's clock from which on it is made.
    HOUR = 3
    DAYS = 7
    WEEKS = 8
    ENDING = ".backup.sqlite3"
    private_constant :HOUR, :ENDING

    # @return [String]
    def self.folder = File.join(File.dirname(Settings.database), "backups")

    # @return [Array<Date>] of the nights that there are, the last one first
    def self.dates
      found = Dir[File.join(folder, "*#{ENDING}")].filter_map do |file|
        day = File.basename(file, ENDING)[/\A\d{4}-\d\d-\d\d\z/].to_s.split("-").map(&:to_i)
        Date.new(*day) if day.any? && Date.valid_date?(*day)
      end
      found.sort.reverse
    end

    # @param date [Date]
    # @return [String]
    def self.file(date) = File.join(folder, "#{date.iso8601}#{ENDING}")

    # @param date [Date] of a night
    # @param today [Date]
    # @return [Boolean] whether it is still kept
    def self.kept?(date, today) = date > today - DAYS || (date.monday? && date > today - (WEEKS * 7))

    # @param now [Time]
    # @return [void] makes tonight's where it is due, and removes what is kept no longer
    def round(now = Time.now)
      local = GateMile::LocalMoment.local(now, Records::Store.current.time_zone)
      today = local.to_date
      return if local.hour < HOUR || @made == today

      FileUtils.mkdir_p(Nightly.folder, mode: 0o700)
      Backup.write(Nightly.file(today), now: now) unless File.exist?(Nightly.file(today))
      @made = today
      Nightly.dates.reject { |date| Nightly.kept?(date, today) }.each { |date| FileUtils.rm_f(Nightly.file(date)) }
    end
  end
end
