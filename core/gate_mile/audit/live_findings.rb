# frozen_string_literal: true

module GateMile
  # What is wrong with live rates: no fallback, goods that carriers can't be asked about or that fit no box, services of
  # carriers that are off, and own prices below what a carrier took for the same goods.
  class LiveFindings
    include OfRates

    # Addresses of a zone whose answers are looked at, at most: the sample first.
    PLACES = 4
    private_constant :PLACES

    # @param book [Book]
    # @param answers [Hash{CarrierRequest => Reply}] what carriers have answered lately
    def initialize(book, answers = {})
      @book = book
      @answers = answers
      @rates = book.rates_in_use.select(&:live)
      @goods = Alone.goods(book)
    end

    # @return [Array<Finding>]
    def list
      [*@rates.flat_map { |rate| of(rate) }, *boxes]
    end

    private

    def of(rate)
      [*fallback(rate), *asleep(rate), *unknown(rate), *never(rate), *losses(rate), *refused(rate)]
    end

    # A silent carrier costs the cart, without the merchant having said so for every kind of trouble.
    def fallback(rate)
      bare = rate.live.ladder.select { |trouble, step| step.kind == :none && trouble != :refused }.keys
      bare.empty? ? [] : [finding(:live_no_fallback, :warning, rate, troubles: bare.map(&:to_s))]
    end

    def asleep(rate)
      off = rate.live.services.filter_map { |id, _| @book.carriers.find { |one| one.id == id && !one.active } }.uniq
      off.empty? ? [] : [finding(:live_carrier_off, :warning, rate, names: off.map(&:name))]
    end

    # Goods without weight, and where parcels are packed into boxes those without a size.
    def unknown(rate)
      policy = rate.plan&.parcels || @book.store.parcels
      sized = policy.kind != :boxes || policy.unit_size
      found = @goods.select { |one| (one.weight || policy.unit_weight).nil? || (one.size.nil? && !sized) }
      found = travelling(found, rate)
      found.empty? ? [] : [finding(:live_unmeasured, :warning, rate, **told(found))]
    end

    # Goods, or else parcels, that every service refused lately: beyond all limits.
    def refused(rate)
      goods = known(rate).select { |_, replies, of| replies.size == of && none_takes?(replies) }
      if goods.any?
        names = told(goods.map(&:first).uniq)
        return [finding(:live_all_refuse, :warning, rate, **names, said: said(goods.first[1]))]
      end

      question, replies = questions(rate).find { |_, pairs| none_takes?(pairs) }
      question ? [finding(:live_all_refuse, :note, rate, grams: heaviest(question), said: said(replies))] : []
    end

    def heaviest(question) = question.parcels.map(&:grams).max

    def none_takes?(replies) = replies.each_value.all? { |reply| all_refused?(reply) }

    def said(replies)
      replies.each_value.flat_map { |reply| [reply.said, *reply.services.each_value.map(&:said)] }.compact.first
    end

    # What carriers answered about single goods, wherever in the rate's zone they were asked for.
    # @return [Array<Array(Article, Hash{String => Reply}, Integer)>] with the number of carriers
    def known(rate)
      return [] if @answers.empty?

      @known ||= {}
      @known[rate.id] ||= survey.cases.select { |one| one.rate.equal?(rate) }.flat_map do |one|
        places(rate).filter_map do |place|
          replies = replies(one, place)
          [one.article, replies, one.requests.size] if replies.any?
        end
      end
    end

    def replies(one, place)
      one.requests.to_h { |request| [request.carrier, @answers[request.with(destination: place)]] }.compact
    end

    def survey = @survey ||= LiveSurvey.new(@book)

    def places(rate)
      asked = questions(rate).keys.map(&:destination)
      asked.empty? ? [] : [survey.place(rate), *asked].compact.uniq.first(PLACES)
    end

    # What was asked of the rate's carriers for its own zone: the answers by carrier, by the same question.
    # @return [Hash{CarrierRequest => Hash{String => Reply}}]
    def questions(rate) = (@questions ||= {})[rate.id] ||= asked(rate)

    def asked(rate)
      asked = @answers.select do |request, _|
        rate.live.services.any? { |id, _| id == request.carrier } && zone_of(request.destination) == rate.zone
      end
      asked.group_by { |request, _| request.with(carrier: nil, services: nil) }
           .transform_values { |pairs| pairs.to_h { |request, reply| [request.carrier, reply] } }
    end

    def zone_of(place)
      @zones ||= {}
      @zones.fetch(place) { @zones[place] = @book.zones.land(place).zone&.id }
    end

    def all_refused?(reply)
      reply.status == :refused ||
        (reply.status == :answered && reply.services.each_value.all? { |said| said.status == :refused })
    end

    # Goods that leave the ordinary calculation, or may not travel by it, are in no parcel.
    def travelling(goods, rate)
      stays = Hash.new { |known, placed| known[placed] = stays?(placed, rate) }.compare_by_identity
      goods.reject { |article| stays[@book.treatments.on(article, article.shipping_class)] }
    end

    # @param placed [Array<Placed>] the same list for all goods that the same treatments reach
    def stays?(placed, rate)
      placed.any? do |one|
        one.treatment.bars?(rate.zone, rate.method_id) ||
          (one.treatment.price&.apart? && one.treatment.applies?(rate.zone, rate.method_id))
      end
    end

    def told(articles) = { count: articles.size, names: articles.first(GoodsFindings::SHOWN).map(&:name) }

    # Services that were asked lately and never were the answer that counts.
    def never(rate)
      won, asked = tally(rate)
      lost = asked.select { |service, count| count >= 3 && !won.include?(service) }.keys
      return [] if lost.empty? || won.empty?

      names = lost.map do |id, code|
        carrier = @book.carriers.find { |one| one.id == id }
        "#{carrier&.name} #{carrier&.service_name(code)}"
      end
      [finding(:live_never_wins, :note, rate, names: names, how: rate.live.answer)]
    end

    # The zone's own prices below what the cheapest carrier took for the same parcels: by the weight of one product.
    def losses(rate)
      own = @book.rates_of(@book.zone(rate.zone)).select { |other| other.plan && other.live.nil? && other.active }
      own.filter_map { |other| loss(rate, other) }
    end

    def loss(rate, other)
      lost = known(rate).filter_map { |article, replies,| below(other, article, priced(rate, replies)) }
      return if lost.empty? || @book.shipping_method(other.method_id).kind == "collection"

      article, paid, taken = lost.max_by { |_, price, cost| cost.minor - price.minor }
      finding(:live_loss, :warning, other, name: article.name, weight: article.weight.to_s, price: paid, cost: taken,
                                           count: lost.map(&:first).uniq.size)
    end

    # One unit by an own rate that takes less for it than the cheapest carrier.
    def below(other, article, answers)
      taken = answers.map { |_, answer| answer.total }.min or return
      paid = alone.quote(other, article).price
      [article, paid, taken] if paid&.minor&.positive? && paid < taken
    end

    def alone = @alone ||= Alone.new(@book)

    # By which services the last questions were won, and how often each was asked.
    def tally(rate)
      asked = Hash.new(0)
      won = rounds(rate).filter_map do |answers|
        answers.map(&:first).each { |service| asked[service] += 1 }
        rate.live.first_of(answers) { |one, said| [said.total, said.days, rate.live.services.index(one)] }&.first
      end
      [won.uniq, asked]
    end

    def rounds(rate) = questions(rate).each_value.map { |replies| priced(rate, replies) }

    # The answers with a price of services that the rate asks.
    def priced(rate, replies)
      replies.flat_map do |carrier, reply|
        reply.services.filter_map do |code, said|
          [[carrier, code], said] if said.status == :ok && rate.live.services.include?([carrier, code])
        end
      end
    end

    # Goods that fit no box, where parcels are packed.
    def boxes
      return [] unless @book.store.boxes.any?(&:active) && packing?

      packing = Packing.new(@book.store.boxes)
      misfits = packed.select { |item, _| packing.misfits([Packing::Item.new(*item, 1, nil)]).any? }
      found = Alone.in_order(@book, misfits.each_value.to_a.flatten(1))
      setting = { kind: "box", id: @book.store.boxes.last.id }
      found.empty? ? [] : [Finding.new(code: :no_box_for, harm: :warning, numbers: told(found), setting: setting)]
    end

    # Goods that are packed into boxes, by what decides whether they fit.
    # @return [Hash{Array => Array<Article>}]
    def packed
      @book.catalogue.once(:packed) do
        @goods.select { |article| article.size && article.weight && article.packing != "carton" }
              .group_by { |article| measured(article) }.freeze
      end
    end

    def measured(article)
      sides = [article.size.length, article.size.width, article.size.height].map(&:base)
      [sides, article.weight.base, article.packing == "upright"]
    end

    def packing?
      @book.store.parcels.kind == :boxes || @book.rates_in_use.any? { |rate| rate.plan&.parcels&.kind == :boxes }
    end
  end
end
