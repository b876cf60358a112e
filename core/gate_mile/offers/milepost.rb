# frozen_string_literal: true

module GateMile
  # What an offer says to shoppers: one text for each of its moments, each of which may be left silent.
  #
  # texts: by moment; near: {Boundary}, how close "nearly there" is; pages: kinds of page that it stands on, empty for
  # all; closable: whether a shopper can close it; link: where it leads, or nil; zones, groups: ids that it is narrowed
  # to, nil for all of the offer's; period: {Period} inside the offer's.
  class Milepost < Value.of(:active, :texts, :near, :pages, :closable, :link, :zones, :groups, :period)
    MOMENTS = %w[before away nearly reached not_for_you].freeze
    PLACEHOLDERS = %w[remaining threshold zone method].freeze
    PATTERN = /\{([^{}]*)\}/

    # @param id [String] of a zone or a group that goes
    # @return [Milepost] narrowed no more, where it was narrowed to that alone
    def without(id)
      zones, groups = [self.zones, self.groups].map do |ids|
        ids && (ids - [id]).then do |left|
          left unless left.empty?
        end
      end
      with(zones: zones, groups: groups)
    end
  end
end
