# frozen_string_literal: true

require_relative "../../support/core"

# Doubts of clauses in every country whose form of postcodes is known: who is doubted matches nothing, who is not
# matches something, and what is offered instead is sound.
class DoubtsTest < Minitest::Test
  include CoreSupport

  SIGNS = { "#" => [*"0".."9"], "@" => [*"A".."Z"], "*" => [*"A".."Z", *"0".."9"] }.freeze
  FORMS = GateMile::Postcode::FORMS

  def test_no_beginning_of_a_postcode_is_doubted
    random = Random.new(53)
    FORMS.each do |country, form|
      4.times do
        text = postcode(form, random)
        part = text[0, random.rand(1..text.length)]
        assert_empty doubts(part, country), "#{country} #{part}"
        assert meets?(clause(part, country), text, country), "#{country} #{part} meets #{text}"
      end
    end
  end

  # Brute force: a clause that is doubted meets none of thousands of postcodes of its country.
  def test_what_is_doubted_meets_nothing
    random = Random.new(59)
    told = 0
    %w[DE US AU NL CA IE PT AD GB].each do |country|
      postcodes = Array.new(1500) { GateMile::Postcode.of(country, country == "GB" ? british(random) : postcode(FORMS.fetch(country), random)) }
      150.times do
        text = mistyped(country, postcodes.sample(random: random).text, random)
        list = GateMile::ClauseList.parse(text, country)
        next if list.faults.any? || list.clauses.empty?

        met = postcodes.find { |one| list.clauses.first.match?(one, country == "GB") }
        doubt = list.doubts.first
        told += 1 if doubt
        assert_nil met&.text, "#{country} #{text} is doubted (#{doubt&.fetch(:doubt)&.code})" if doubt
      end
    end
    assert_operator told, :>, 200
  end

  # What is offered can be taken: it is read, it is not doubted, and it meets what was meant.
  def test_what_is_offered_is_sound
    random = Random.new(61)
    offered = 0
    FORMS.each do |country, form|
      low, high = Array.new(2) { postcode(form, random) }.sort
      next if low == high || form.delete("#").length.positive?

      doubt = GateMile::ClauseList.parse("#{low}-#{high}", country).doubts.first&.fetch(:doubt)
      assert_equal [:never_matches, "#{low} to #{high}"], [doubt&.code, doubt&.meant], country
      assert_empty doubts(doubt.meant, country)
      assert meets?(clause(doubt.meant, country), low, country), "#{country} #{low} #{high}"
      offered += 1
    end
    assert_operator offered, :>, 90
    { "PA20-PA49" => "PA20 to PA49", "pa20 – pa49" => "PA20 to PA49", "BTO" => nil }.each do |text, meant|
      assert_equal [meant], doubts(text, "GB").map(&:meant), text
    end
  end

  # Postcodes of the Crown Dependencies under the United Kingdom, whatever their length: and the country they are of.
  def test_territories_with_a_country_of_their_own
    { "JE" => "JE", "JE2" => "JE", "GY1" => "GG", "IM" => "IM", "IM1 1AA" => "IM", "im9" => "IM" }.each do |text, country|
      assert_equal [[:other_country, country]], doubts(text, "GB").map { |doubt| [doubt.code, doubt.country] }, text
      assert_empty doubts(text, country), "at home nobody doubts it"
    end
    %w[J G I JM GI BT B IV].each { |text| assert_empty doubts(text, "GB").select { |doubt| doubt.code == :other_country }, text }
  end

  # Positions and lines are those of the list, and good clauses between the doubted ones are kept.
  def test_a_long_list_with_doubts_between
    lines = Array.new(400) { |at| at % 4 == 3 ? "1#{at + 100}-1#{at + 100}" : format("%05d", 10_000 + at) }
    list = GateMile::ClauseList.parse(lines.join("\n"), "DE")
    assert_empty list.faults
    assert_equal 400, list.clauses.size, "a doubt takes nothing away"
    assert_equal((3...400).step(4).map { |at| at + 1 }, list.doubts.map { |doubt| doubt[:line] })
    assert_equal(list.doubts.map { |doubt| doubt[:position] }, list.doubts.map { |doubt| doubt[:line] })
    many = GateMile::ClauseList.parse(Array.new(500) { |at| "X#{at}" }.join(","), "DE")
    assert_equal [500, GateMile::ClauseList::SHOWN], [many.clauses.size, many.doubts.size]
  end

  private

  def doubts(text, country) = GateMile::ClauseList.parse(text, country).doubts.map { |one| one[:doubt] }
  def clause(text, country) = GateMile::Clause.parse(text, country)
  def meets?(clause, text, country) = clause.match?(GateMile::Postcode.of(country, text), GateMile::Postcode.structured?(country))
  def postcode(form, random) = form.chars.map { |sign| SIGNS.fetch(sign).sample(random: random) }.join

  def british(random)
    area = %w[AB B BT EC G IV KW L PA SW W ZE].sample(random: random)
    "#{area}#{random.rand(1..99)} #{random.rand(10)}#{Array.new(2) { SIGNS["@"].sample(random: random) }.join}"
  end

  # A sign too many, a letter for a figure, a dash for "to", a figure for a letter.
  def mistyped(country, text, random)
    return "#{text}-#{text.succ}" if random.rand(3).zero? && country != "GB"

    at = random.rand(text.length)
    text.dup.tap do |copy|
      case random.rand(3)
      when 0 then copy[at] = SIGNS["*"].sample(random: random)
      when 1 then copy << SIGNS["*"].sample(random: random)
      else copy.insert(at, SIGNS["@"].sample(random: random))
      end
    end
  end
end
