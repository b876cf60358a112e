# frozen_string_literal: true

module Server
  # The sentences in which a problem is told to the one who typed: what is wrong, and what to do.
  module Words
    SENTENCES = {
      missing: "Fill this in.",
      too_long: "Use at most %<most>s characters; this has %<length>s.",
      control_characters: "Leave out line breaks and other control characters.",
      taken: "Another %<what>s already.",
      method_in_zone: "This method is in the zone already.",
      place_twice: "This place is in the list twice.",
      not_an_amount: "Write an amount like 4.50, with a point and without a currency sign.",
      too_many_decimals: "This currency has at most %<places>s decimals.",
      too_large: "This is larger than anything a shop ships or charges.",
      negative: "This can't be less than zero.",
      not_a_number: "Write a number like 4.50.",
      not_a_measure: "Write a number and a unit, like 0.25 kg.",
      unknown_unit: "Use one of these units: %<units>s.",
      size_in_part: "Give all three sides, or none.",
      not_a_percentage: "Write a percentage like 12.5.",
      unknown_country: "This is no country code of ISO 3166-1, such as GB or IE.",
      unknown_currency: "This is no currency code of ISO 4217, such as GBP or EUR.",
      unknown_time_zone: "This is no time zone of the IANA list, such as Europe/London.",
      prices_stand: "Prices are set in %<currency>s already. The currency can change only while there are none.",
      not_whole: "Write a whole number.",
      out_of_range: "Use a whole number from %<least>s to %<most>s.",
      not_text: "This must be text.",
      not_an_object: "This must be an object with fields.",
      not_a_list: "This must be a list.",
      not_true_or_false: "This must be true or false.",
      not_one_of: "Use one of: %<choices>s.",
      too_many: "Use at most %<most>s of these.",
      bad_line: "Address line %<line>s is no text, or too long.",
      unknown_field: "There is no field of this name.",
      unknown_id: "This points to something that is not there.",
      twice: "This stands there already, at number %<first>s.",
      unknown_region: "This is no region of %<country>s by ISO 3166-2.",
      bad_clause: "write a postcode or the beginning of one: letters, figures, # for any figure, @ for any letter.",
      only_wildcards: "say at least one letter or figure; this would match everything.",
      bad_range: "write a range as 1000 to 1999 or PA20 to PA49.",
      range_backwards: "the range runs backwards: write the lower end first.",
      range_lengths: "both ends of a range need the same number of figures.",
      range_letters: "both ends of a range need the same letters; in Britain it is one of districts: PA20 to PA49.",
      csv_encoding: "This is not UTF-8 (it looks like UTF-16). Save it as CSV in UTF-8 and take it again.",
      csv_columns: "The first row must name the columns %<columns>s. Missing: %<missing>s.",
      csv_foreign: "These columns are not known: %<foreign>s. There are: %<columns>s.",
      csv_malformed: "This is no CSV: %<message>s",
      decimal_comma: "Write %<text>s, with a point.",
      out_of_percent: "Use a percentage from 0 to 100.",
      sku_or_name: "Give a SKU, or a name for goods that are not in the catalogue.",
      step_first: "The first step begins at 1.",
      step_twice: "There is a step from %<from>s already.",
      step_order: "Steps go up: the one before begins at %<last>s.",
      limit_empty: "Choose at least one, or all.",
      doubtful_weight: "Does one unit really weigh %<weight>s?",
      no_class_named: "There is none called %<name>s.",
      yes_or_no: "Write yes or no.",
      variant_of_variant: "A variant belongs to a product that is no variant itself.",
      from_its_product: "A variant has this from its product.",
      no_parent: "There is no product %<sku>s to be a variant of.",
      other_parent: "It stands elsewhere in the catalogue: remove it there first.",
      sku_twice: "The SKU stands in line %<line>s already.",
      csv_large: "This is larger than 20 MB. Split it, or leave out columns that are not needed.",
      csv_no_header: "The first row must name the columns.",
      csv_mapped_twice: "Two columns can't both be the %<field>s.",
      csv_needs: "Say which column is the %<field>s.",
      missing_price: "Give it a price.",
      gone: "This product is not there any more.",
      stale: "This was changed elsewhere since it was shown here.",
      wrong_form: "This has not the form that is expected here."
    }.freeze
    private_constant :SENTENCES

    # @param code [Symbol]
    # @param numbers [Hash] what the sentence names
    # @return [String]
    def self.of(code, **numbers) = format(SENTENCES.fetch(code), **numbers)
  end
end
