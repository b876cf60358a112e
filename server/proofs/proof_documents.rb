# frozen_string_literal: true

module Server
  # Proofs and what became of them, as the contract shows them.
  module ProofDocuments
    class << self
      # @param record [Records::Proof]
      # @return [Hash] Proof of the contract
      def proof(record)
        { "note" => nil, "tags" => [], **record.document.compact, "lock_version" => record.lock_version }
      end

      # @param run [ProofSuite::Run]
      # @return [Hash] ProofState of the contract
      def state(run) = { revision: run.revision, total: run.list.size, **run.counts }

      # @param run [ProofSuite::Run]
      # @param asked [Hash{Symbol => Object}] state, tag, find; limit and offset of a page
      # @return [Hash] ProofList of the contract
      def list(run, asked)
        found = like(run, asked)
        ids = found.keys.slice(asked[:offset], asked[:limit]) || []
        records = Records::Proof.where(id: ids).index_by(&:id)
        { **state(run), found: found.size, tags: run.list.each_value.flat_map { |kept| kept.proof.tags }.uniq.sort,
                        proofs: ids.filter_map do |id|
                          records[id] && { proof: proof(records[id]), outcome: outcome(found[id]) }
                        end }
      end

      # @param run [ProofSuite::Run]
      # @param asked [Hash{Symbol => String}] state, tag, find (folded)
      # @return [Hash{String => ProofSuite::Kept}] those that are like that, by id
      def like(run, asked) = run.list.select { |_, kept| shown?(kept, asked) }

      # @param kept [ProofSuite::Kept]
      # @return [Hash] ProofOutcome of the contract
      def outcome(kept) = told(kept.outcome, kept.proof, kept.book)

      # @param outcome [GateMile::Proving::Outcome]
      # @return [Hash] ProofOutcome of the contract
      def told(outcome, proof, book)
        { state: outcome.state, departures: outcome.departures.map(&:dump), at: local(outcome.at, book),
          unclear: outcome.unclear.map { |one| GateMile::Plain.of(one) },
          recorded_at: proof.recorded.at&.then { |at| local(at, book) } }
      end

      # @param kept [ProofSuite::Kept]
      # @param before [GateMile::Quote, nil]
      # @param after [GateMile::Quote]
      # @return [Hash] ProofParting of the contract
      def parting(kept, before, after)
        { outcome: outcome(kept), before: before && landed(before), after: landed(after),
          methods: before ? GateMile::Parting.all(before, after).map { |one| parted(one) } : [] }
      end

      private

      def shown?(kept, asked)
        proof = kept.proof
        (asked[:state].empty? || kept.outcome.state.name == asked[:state]) &&
          (asked[:tag].empty? || proof.tags.include?(asked[:tag])) &&
          (asked[:find].empty? || GateMile::Product.fold("#{proof.name} #{proof.note}").include?(asked[:find]))
      end

      def local(time, book) = GateMile::LocalMoment.local(time, book.store.time_zone).strftime("%Y-%m-%dT%H:%M")

      def landed(quote)
        { status: quote.status, zone: quote.landing&.zone&.id,
          methods: quote.method_quotes.select(&:available?).map do |one|
            { method: one.method_id, name: one.name, price: one.price.to_s }
          end }
      end

      def parted(one)
        { method: one.method_id, name: one.name, before: one.before&.price&.to_s, after: one.after&.price&.to_s,
          cause: one.cause && GateMile::QuoteDocument.cause(one.cause),
          setting: one.setting && GateMile::Plain.of(one.setting),
          first: one.first.map { |step| step && GateMile::QuoteDocument.step(step) } }
      end
    end
  end
end
