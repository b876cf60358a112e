# frozen_string_literal: true

module GateMile
  # How one kind of value stands in a JSON document: each of its fields once, with how it is read, what is wrong with
  # it told at its place, and how it is written. A field that is written as nil is left out.
  class Form
    # name: of the value's field; key: in the document; read: makes the field of (reader, setting); write: what stands
    # in the document for the field; nil for a field of several keys, which `parts` writes.
    Field = Struct.new(:name, :key, :read, :write)

    # Fields that a value has in common with others, in the same object of the document: read: makes them, as a hash, of
    # (reader, setting); write: the keys for them, of the value.
    Part = Struct.new(:read, :write)

    # @param kind [Class] of the values, made by `new(**fields)`
    # @yield in the form: its fields, in the order in which they are read
    def initialize(kind, &)
      @kind = kind
      @fields = []
      @checks = []
      instance_eval(&)
      freeze
    end

    # @param reader [Reader]
    # @param setting [Setting]
    # @param last [Boolean] whether fields that nobody asked for are told
    # @return [Object] the value, with nil where a field could not be read
    def read(reader, setting, last: true)
      values = {}
      @fields.each do |field|
        if field.is_a?(Part) then values.update(field.read.call(reader, setting))
        else values[field.name] = field.read.call(reader, setting)
        end
      end
      made = @kind.new(**values)
      @checks.each { |check| check.call(reader, made, setting) }
      reader.finish if last
      made
    end

    # @param value [Object]
    # @return [Hash] for JSON
    def write(value)
      @fields.each_with_object({}) do |field, document|
        next document.update(field.write.call(value)) if field.is_a?(Part)

        written = field.write.call(value.public_send(field.name))
        document[field.key] = written unless written.nil?
      end
    end

    # @param document [Object] parsed JSON
    # @param setting [Setting]
    # @return [Object]
    # @raise [Invalid]
    def parse(document, setting)
      reader = Reader.open(document)
      value = read(reader, setting)
      reader.problems.any? ? raise(Invalid, reader.problems) : value
    end

    private

    SAME = :itself.to_proc
    TEXT = ->(value) { value&.to_s }
    private_constant :SAME, :TEXT

    # Looks at what was read as a whole.
    def check(&block) = @checks << block

    def field(name, key = name.to_s, write: SAME, &read) = @fields << Field.new(name, key, read, write)
    def part(read:, write:) = @fields << Part.new(read, write)

    def text(name, key = name.to_s, **options) = field(name, key) { |reader, _| reader.text(key, **options) }

    # The first of the choices, unless the document says another; `usual: false` writes it only where it is another.
    def choice(name, key = name.to_s, among:, default: among.first, symbol: false, usual: true)
      write = ->(value) { value&.to_s unless !usual && value.to_s == default }
      field(name, key, write: write) do |reader, _|
        found = reader.choice(key, among: among, default: default)
        symbol ? found&.to_sym : found
      end
    end

    def needed(name, key = name.to_s, among:, symbol: false)
      field(name, key, write: TEXT) do |reader, _|
        found = reader.choice(key, among: among)
        symbol ? found&.to_sym : found
      end
    end

    # `usual: false` writes it only where it is not the default.
    def flag(name, default:, key: name.to_s, usual: true)
      field(name, key, write: ->(value) { value unless !usual && value == default }) do |reader, _|
        reader.flag(key, default: default)
      end
    end

    def money(name, key = name.to_s, required: false, signed: false)
      field(name, key, write: TEXT) do |reader, setting|
        reader.money(key, setting.currency, required: required, signed: signed)
      end
    end

    # A text that one of the quantities reads.
    def parsed(name, key = name.to_s, required: false, write: TEXT, &block)
      field(name, key, write: write) { |reader, _| reader.parsed(key, required: required, &block) }
    end

    def texts(name, key = name.to_s, empty: true, **options)
      field(name, key, write: lambda { |list|
        list unless empty == false && list.empty?
      }) { |reader, _| reader.texts(key, **options) }
    end

    # A list of ids that may be left out, for all: nil then. One that is there is not empty.
    def limit(name, key = name.to_s, most: 500)
      field(name, key) do |reader, _|
        next unless reader.given?(key, read: true)

        reader.texts(key, most: most).tap { |ids| reader.problem(key, :limit_empty) if ids.empty? }
      end
    end

    def object(name, form, key = name.to_s, required: false, default: nil)
      field(name, key, write: ->(value) { value && form.write(value) }) do |reader, setting|
        reader.object(key, required: required)&.then { |item| form.read(item, setting) } || default
      end
    end

    # `empty: false` leaves a list of nothing out.
    def list(name, form, key = name.to_s, required: false, most: nil, empty: true)
      write = ->(values) { values.map { |value| form.write(value) } unless !empty && values.empty? }
      field(name, key, write: write) do |reader, setting|
        reader.items(key, required: required, most: most).map { |item| form.read(item, setting) }
      end
    end
  end
end
