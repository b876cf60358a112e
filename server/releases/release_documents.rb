# frozen_string_literal: true

module Server
  # Releases as the contract shows them.
  module ReleaseDocuments
    class << self
      # What stands in the bar.
      # @param releases [ReleaseShelf]
      # @param now [Time]
      # @return [Hash] ReleaseState of the contract
      def state(releases, now: Time.now)
        live = releases.number(now)
        coming = Records::Publication.standing.where(told: false).where("due > ?", now).in_order
        { revision: Records::Store.revision, live: live, changes: live && changes(live),
          planned: coming.map { |one| publication(one) } }
      end

      # @param releases [ReleaseShelf]
      # @param now [Time]
      # @return [Hash] Releases of the contract
      def list(releases, now: Time.now)
        state(releases, now: now).merge(
          releases: Records::Release.listed.map { |one| release(one) },
          publications: Records::Publication.order(due: :desc, id: :desc).limit(200).map { |one| publication(one) }
        )
      end

      # @param one [Records::Release]
      # @return [Hash] Release of the contract
      def release(one)
        { number: one.id, digest: one.digest, by: one.by, note: one.note, overruled: one.overruled,
          made_at: one.made_at.utc.iso8601 }
      end

      # @param one [Records::Publication]
      # @return [Hash] Publication of the contract
      def publication(one)
        { id: one.id, release: one.release_id, due: one.due.utc.iso8601, by: one.by, note: one.note,
          withdrawn: !one.withdrawn_at.nil? }
      end

      private

      # Edits of the setup that the release has not, and those of it that were undone since.
      def changes(number)
        head = Records::Release.where(id: number).pick(:head)
        Records::Change.done.where("id > ?", head).count + Records::Change.undone.where("id <= ?", head).count
      end
    end
  end
end
