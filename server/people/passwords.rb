# frozen_string_literal: true

module Server
  # Which passwords are taken, by NIST SP 800-63B (section 5.1.1.2 of its third revision, from memory): eight characters
  # or more, whatever they are; none that is commonly used, a word of a dictionary, a run of signs or one's own name.
  module Passwords
    LEAST = 8
    # Bytes that bcrypt reads.
    MOST = 72
    # Of zxcvbn, from 0 to 4: below it a password is among the first hundred million that somebody would try.
    SCORE = 2
    OURS = %w[gatemile gate mile workbench shipping].freeze
    LOCK = Mutex.new
    private_constant :OURS, :LOCK

    class << self
      # @param text [String]
      # @param names [Array<String>] what the person is called, which is no password
      # @param pointer [String] of the field
      # @return [String] the same
      # @raise [Problem] 422
      def check(text, names, pointer: "/password")
        raise Problem.at(pointer, :password_short, least: LEAST) if text.length < LEAST
        raise Problem.at(pointer, :password_long, most: MOST) if text.bytesize > MOST
        raise Problem.at(pointer, :password_common) if score(text, names) < SCORE

        text
      end

      private

      # Its lists take a second to read, and are wanted seldom.
      def score(text, names)
        LOCK.synchronize do
          require "zxcvbn"
          @tester ||= Zxcvbn::Tester.new
          words = names.compact.flat_map { |name| [name, *name.split(/[\s@.]+/)] }.reject { |word| word.length < 3 }
          @tester.test(text, words.map(&:downcase) + OURS).score
        end
      end
    end
  end
end
