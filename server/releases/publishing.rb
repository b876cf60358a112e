# frozen_string_literal: true

module Server
  # Publishes the setup as it stands, now or at a moment, and goes back to what was published before.
  class Publishing
    # Characters of what somebody says about a release.
    NOTE = 2000
    private_constant :NOTE

    # Makes the publication take effect, and announces it to webhooks.
    # @param publication [Records::Publication]
    # @param now [Time]
    # @return [void]
    def self.begin(publication, now)
      publication.begin(now)
      Announcements.published(publication, now: now)
    end

    # @param shelf [BookShelf]
    # @param suite [ProofSuite]
    # @param releases [ReleaseShelf]
    def initialize(shelf:, suite:, releases:)
      @shelf = shelf
      @suite = suite
      @releases = releases
    end

    # Freezes the setup under the next number.
    # @param said [Hash] ReleaseDraft of the contract
    # @param now [Time]
    # @return [Records::Release]
    # @raise [Problem] 409 where the setup has moved on since it was looked at, where nothing has changed, or where
    #   proofs fail and that is not overruled; 422
    def publish(said, now: Time.now)
      due = due(said, now)
      failing = failing(now)
      overruled = said["overrule"].to_s.strip
      refuse_failing(failing) if failing.any? && overruled.empty?
      release = frozen(said, failing.any? ? overruled : nil)
      Database.write do
        unmoved(said)
        differing(release)
        release.save!
        count_from(release, due, said, now)
      end
      @releases.changed
      release
    end

    # Lets a release count that counted before, or will.
    # @param number [Integer]
    # @param said [Hash] ReleaseReturn of the contract
    # @param now [Time]
    # @return [Records::Publication]
    # @raise [Problem] 404, 409 where it counts already, 422
    def go_back(number, said, now: Time.now)
      due = due(said, now)
      publication = Database.write do
        release = Records::Release.listed.find_by(id: number)
        raise Problem.new(404, "There is no release #{number}.") if release.nil?
        raise Problem.new(409, "Release #{number} is live already.") if due <= now && @releases.number(now) == number

        count_from(release, due, said, now)
      end
      @releases.changed
      publication
    end

    # Takes back what has not begun to count.
    # @param id [Integer] of a publication
    # @param now [Time]
    # @return [void]
    # @raise [Problem] 404, 409 where it has begun
    def withdraw(id, now: Time.now)
      Database.write do
        found = Records::Publication.standing.find_by(id: id) or
          raise Problem.new(404, "It is not planned any more.")
        if found.told || found.due <= now
          raise Problem.new(409, "It is live already. Go back to the release before it instead.")
        end

        found.update!(withdrawn_at: now)
      end
      @releases.changed
    end

    private

    # Nobody waits for it while it is read: one consistent look at the setup.
    def frozen(said, overruled)
      document, head = Database.read { unmoved(said) && [BookDocument.read, Records::Change.done.maximum(:id).to_i] }
      fields = { revision: said["revision"], head: head, by: text(said, "by"), note: text(said, "note") }
      Records::Release.of(GateMile::Book.compile(document).dump, **fields, overruled: overruled)
    end

    # The same under two numbers says nothing: what there is already is gone back to.
    def differing(release)
      live = @releases.number
      same = Records::Release.where(id: [live, Records::Release.maximum(:id)].compact, digest: release.digest).pick(:id)
      return if same.nil?
      raise Problem.new(409, "Nothing has changed since release #{live}.") if same == live

      raise Problem.new(409, "Release #{same} is the same. Go back to it under All releases.")
    end

    def unmoved(said)
      return true if said["revision"] == Records::Store.revision

      raise Problem.new(409, "The setup was changed since you looked at it. Look at what changes once more.")
    end

    # What is published now counts now, and what is said of it stands in the same step.
    def count_from(release, due, said, now)
      made = Records::Publication.create!(release_id: release.id, due: due, by: text(said, "by"),
                                          note: text(said, "note"), made_at: now, told: false)
      Publishing.begin(made, now) if due <= now
      made
    end

    def text(said, field) = said[field].to_s.strip.presence&.slice(0, NOTE)

    def failing(now)
      @suite.run(now: now).list.each_value.select { |kept| kept.outcome.state == :changed }
    end

    def refuse_failing(failing)
      names = failing.map { |kept| kept.proof.name }
      detail = "#{names.size == 1 ? "A proof does" : "#{names.size} proofs do"} not hold. Mend that, or say why you " \
               "publish all the same."
      raise Problem.new(409, detail, failing: names.first(20),
                                     errors: [{ pointer: "/overrule", code: "proofs_fail", detail: detail }])
    end

    # @return [Time]
    def due(said, now)
      text = said["at"] or return now
      at = GateMile::LocalMoment.utc(text, Records::Store.current.time_zone)
      return at if at > now

      raise Problem.at("/at", :past)
    rescue GateMile::Malformed => e
      raise Problem.at("/at", e.code)
    end
  end
end
