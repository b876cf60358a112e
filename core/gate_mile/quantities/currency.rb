# frozen_string_literal: true

module GateMile
  # A currency of ISO 4217: its code and its exponent, the number of digits of its minor unit.
  class Currency
    # Codes of ISO 4217 for currencies in circulation. Funds codes, precious metals and test codes are left out: no
    # shop sells in them.
    CODES = %w[
      AED AFN ALL AMD AOA ARS AUD AWG AZN BAM BBD BDT BHD BIF BMD BND BOB BRL BSD BTN BWP BYN BZD CAD CDF CHF CLP CNY
      COP CRC CUP CVE CZK DJF DKK DOP DZD EGP ERN ETB EUR FJD FKP GBP GEL GHS GIP GMD GNF GTQ GYD HKD HNL HTG HUF IDR
      ILS INR IQD IRR ISK JMD JOD JPY KES KGS KHR KMF KPW KRW KWD KYD KZT LAK LBP LKR LRD LSL LYD MAD MDL MGA MKD MMK
      MNT MOP MRU MUR MVR MWK MXN MYR MZN NAD NGN NIO NOK NPR NZD OMR PAB PEN PGK PHP PKR PLN PYG QAR RON RSD RUB RWF
      SAR SBD SCR SDG SEK SGD SHP SLE SOS SRD SSP STN SVC SYP SZL THB TJS TMT TND TOP TRY TTD TWD TZS UAH UGX USD UYU
      UZS VED VES VND VUV WST XAF XCD XOF XPF YER ZAR ZMW
    ].freeze
    EXPONENTS = Hash.new(2).merge(
      %w[BIF CLP DJF GNF ISK JPY KMF KRW PYG RWF UGX VND VUV XAF XOF XPF].to_h { |code| [code, 0] },
      %w[BHD IQD JOD KWD LYD OMR TND].to_h { |code| [code, 3] }
    ).freeze
    private_constant :EXPONENTS

    # @return [String] three capital letters
    attr_reader :code
    # @return [Integer] digits of the minor unit: 0, 2 or 3
    attr_reader :exponent

    # @param code [String] an ISO 4217 code, in any case
    # @return [Currency] the same object for the same code
    # @raise [Malformed] :unknown_currency
    def self.[](code) = ALL[code] || ALL.fetch(code.to_s.strip.upcase) { raise Malformed, :unknown_currency }

    def initialize(code, exponent = EXPONENTS[code])
      @code = code
      @exponent = exponent
      freeze
    end
    private_class_method :new

    # Stands in where a book's currency can't be read, so that the other problems of the book are told too. It takes as
    # many decimals as any currency has; nothing is ever priced in it.
    UNREAD = new("---", 3)

    ALL = CODES.to_h { |code| [code, new(code)] }.freeze
    private_constant :ALL

    def to_s = code

    # Through Marshal too a currency stays the one that there is of its code.
    # @return [String]
    def _dump(_level) = code

    # @param code [String]
    # @return [Currency]
    def self._load(code) = self[code]
  end
end
