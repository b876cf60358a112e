# frozen_string_literal: true

module Server
  # What a long import answers, line by line as it goes on: {"done":…,"total":…}, and at the end
  # {"result":…,"change":…} or {"problem":…}.
  module ImportLines
    class << self
      # @param about [String] what is imported, for the log
      # @yieldparam tell [#call] hears how many are done, and of how many
      # @yieldreturn [Hash] the result
      # @return [Enumerator<String>] lines of JSON
      def of(about)
        Enumerator.new do |out|
          result = yield(->(done, total) { out << line({ done: done, total: total }) })
          out << line({ result: result, change: History.made })
        rescue Problem => e
          out << line({ problem: JSON.parse(e.to_json) })
        rescue StandardError => e
          Log.fault(e, about)
          out << line({ problem: JSON.parse(Problem.new(500, Problem::MISTAKE).to_json) })
        end
      end

      private

      def line(value) = "#{JSON.generate(value)}\n"
    end
  end
end
