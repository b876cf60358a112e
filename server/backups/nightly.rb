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
    # Seconds until the next try, after so many that have failed.
    WAITS = [60, 300, 900, 3600].freeze
    private_constant :HOUR, :ENDING, :WAITS

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

    # @param now [Time]
    # @return [Float, nil] seconds since the last one was made; nil where there is none
    def self.age(now = Time.now) = dates.first&.then { |date| [now - File.mtime(file(date)), 0].max }

    # @param date [Date]
    # @return [String]
    def self.file(date) = File.join(folder, "#{date.iso8601}#{ENDING}")

    # @param date [Date] of a night
    # @param today [Date]
    # @return [Boolean] whether it is still kept
    def self.kept?(date, today) = date > today - DAYS || (date.monday? && date > today - (WEEKS * 7))

    # @return [String, nil] why tonight's could not be made; nil where nothing is wrong
    attr_reader :trouble
    # @return [Integer] tries that have failed since the last backup
    attr_reader :failures

    def initialize
      @failures = 0
    end

    # @param now [Time]
    # @return [void] makes tonight's where it is due, and removes what is kept no longer
    def round(now = Time.now)
      local = GateMile::LocalMoment.local(now, Records::Store.current.time_zone)
      today = local.to_date
      return if local.hour < HOUR || @made == today || waits?(now)

      FileUtils.mkdir_p(Nightly.folder, mode: 0o700)
      Backup.write(Nightly.file(today), now: now) unless File.exist?(Nightly.file(today))
      succeeded(today)
      Nightly.dates.reject { |date| Nightly.kept?(date, today) }.each { |date| FileUtils.rm_f(Nightly.file(date)) }
    rescue Backup::Refused, SystemCallError => e
      failed(e, now)
    end

    private

    # A clock that was set back does not stretch the wait.
    def waits?(now) = @failed && (now - @failed).between?(0, WAITS[[@failures, WAITS.size].min - 1])

    def succeeded(today)
      @made = today
      @failed = @trouble = nil
      @failures = 0
      Database.damaged = false
    end

    # The first failure is told to whoever wants to know; each one waits longer for the next try.
    def failed(error, now)
      @trouble = error.message
      @failed = now
      @failures += 1
      Database.damaged = true if error.is_a?(Backup::Damaged)
      Log.fault(error, "making the backup of the night")
      Announcements.soon("backup.failed", now: now) { { reason: error.message } } if @failures == 1
    end
  end
end
