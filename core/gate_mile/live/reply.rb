# frozen_string_literal: true

module GateMile
  # What came back of one request. status: :answered, :silent (down, too late, not asked because it is down), :refused
  # (this address or these goods), :unusable (nonsense) or :fault (whoever asks has made a mistake, and the carrier has
  # no part in it); services: {ServiceAnswer}s by code, where it answered; said:
  # what the carrier said, or why there is no answer; age: seconds since it answered.
  class Reply < Value.of(:status, :services, :said, :age)
    # @param said [String]
    # @return [Reply]
    def self.failed(status, said) = new(status: status, services: {}, said: said, age: 0)
  end
end
