# frozen_string_literal: true

require "json_schemer"
require "monitor"
require "yaml"

module Server
  # The HTTP contract (docs/api/openapi.yaml) at work: bodies are held against it before anything else reads them.
  module Contract
    FILE = File.join(ROOT, "docs", "api", "openapi.yaml")

    # Kinds of mismatch that JSON Schema names, as problems of ours.
    CODES = { "required" => :missing, "string" => :not_text, "integer" => :not_whole, "boolean" => :not_true_or_false,
              "object" => :not_an_object, "array" => :not_a_list, "enum" => :not_one_of, "schema" => :unknown_field,
              "unevaluatedProperties" => :unknown_field, "maxItems" => :too_many }.freeze
    private_constant :CODES
    # Mismatches that are told, and fields that one object may have: a body that is wrong in thousands of places is told
    # of the first ones.
    MOST = Body::MOST
    FIELDS = 1000
    LOCK = Monitor.new
    private_constant :LOCK

    class << self
      # @return [JSONSchemer::OpenAPI]
      def document = @document ||= JSONSchemer.openapi(source)

      # @return [Hash] the contract; what it shares with the formats stands where it names it
      def source = @source ||= whole(YAML.safe_load_file(FILE))

      # @param prefix [String] of addresses
      # @param info [Hash] that it says of itself otherwise than the whole
      # @return [Hash] the contract of those addresses, with what they name and nothing else
      def section(prefix, **info)
        paths = source["paths"].select { |path, _| path.start_with?(prefix) }
        tags = paths.each_value.flat_map { |path| path.each_value.grep(Hash).flat_map { |verb| verb["tags"].to_a } }
        components = { **source["components"].slice("securitySchemes"), **named(paths) }
        source.slice("openapi", "servers").merge(
          "info" => source["info"].merge(info.transform_keys(&:to_s)), "paths" => paths, "components" => components,
          "tags" => source["tags"].select { |tag| tags.include?(tag["name"]) }
        )
      end

      # @param name [String] a schema of the contract
      # @param body [Object] parsed JSON
      # @return [void]
      # @raise [Problem] 422 with every mismatch at its place
      def check(name, body)
        bounded(body)
        # Parts of a schema are looked up when they are first wanted, which several threads may not do at a time.
        errors = LOCK.synchronize { told(schema(name).validate(body), body) }
        raise Problem.new(422, Problem::TITLES[422], errors: deepest(errors)) if errors.any?
      end

      # @return [void] reads the contract now rather than at the first request
      def prepare = source["components"]["schemas"].each_key { |name| schema(name) }

      # @param verb [String] of HTTP
      # @param path [String]
      # @return [String] the role that a call wants (x-role); where it names none, a viewer's to read and an editor's to
      #   write
      def role(verb, path)
        verb = verb == "HEAD" ? "get" : verb.downcase
        said = roles.fetch(path) { templates.find { |template, _| template.match?(path) }&.last }
        said&.fetch(verb, nil) || (verb == "get" ? "viewer" : "editor")
      end

      private

      # @return [Hash{String => Hash}] by address and verb
      def roles
        @roles ||= source["paths"].transform_values do |verbs|
          verbs.filter_map { |verb, operation| [verb, operation["x-role"]] if operation.is_a?(Hash) }.to_h.compact
        end
      end

      # @return [Array<Array(Regexp, Hash)>] of addresses with a part that varies
      def templates
        @templates ||= roles.select { |path, _| path.include?("{") }.map do |path, said|
          [/\A#{Regexp.escape(path).gsub(/\\\{\w+\\\}/, "[^/]+")}\z/, said]
        end
      end

      # @return [Hash] of components, those that these name in turn among them
      def named(part, found = {})
        case part
        when Array then part.each { |item| named(item, found) }
        when Hash
          component(part["$ref"], found)
          part.fetch("discriminator", {}).fetch("mapping", {}).each_value { |ref| component(ref, found) }
          part.each_value { |item| named(item, found) }
        end
        found
      end

      def component(ref, found)
        kind, name = ref.to_s[%r{\A#/components/(.+)\z}, 1]&.split("/")
        return if name.nil? || found.dig(kind, name)

        (found[kind] ||= {})[name] = source["components"][kind][name]
        named(found[kind][name], found)
      end

      # Files that others are named in are read here, once.
      def whole(part)
        case part
        when Array then part.map { |item| whole(item) }
        when Hash then elsewhere(part["$ref"]) || part.transform_values { |item| whole(item) }
        else part
        end
      end

      # @return [Object, nil] nil for what stands in the contract itself
      def elsewhere(ref)
        file, pointer = ref.to_s.split("#")
        return if file.to_s.empty?

        @files ||= {}
        @files[file] ||= JSON.parse(File.read(File.expand_path(file, File.dirname(FILE))))
        @files[file].dig(*pointer.split("/").drop(1))
      end

      # @raise [Problem] 422 at an object with more fields than any has
      def bounded(value, pointer = "")
        case value
        when Array then value.each_with_index { |item, at| bounded(item, "#{pointer}/#{at}") if item.is_a?(Enumerable) }
        when Hash
          too_many(pointer) if value.size > FIELDS
          value.each { |key, item| bounded(item, pointer + GateMile::Reader.part(key)) if item.is_a?(Enumerable) }
        end
      end

      def too_many(pointer)
        raise Problem.at(pointer, :too_many, most: FIELDS)
      end

      def schema(name) = (@schemas ||= {})[name] ||= document.schema(name)

      # Where alternatives are open (a plan or null), only the place that is really wrong.
      def deepest(errors)
        errors.reject { |error| errors.any? { |other| other[:pointer].start_with?("#{error[:pointer]}/") } }
      end

      def told(errors, body)
        errors.lazy.reject { |error| mistaken?(error, body) }.first(MOST).flat_map { |error| problems(error) }.uniq
      end

      # Where one field is wrong, JSON Schema calls all the others of its object unknown; and a part of a tree of
      # conditions is told what is wrong with it as either, though it is known by its fact which of the two it is.
      def mistaken?(error, body)
        case error["schema_pointer"]
        when %r{/unevaluatedProperties\z}
          known = fields_of("$ref" => "##{error["schema_pointer"].delete_suffix("/unevaluatedProperties")}")
          known.include?(error["data_pointer"].split("/", -1).last)
        when "/components/schemas/Tree/additionalProperties" then part(body, error["data_pointer"]).key?("fact")
        when "/components/schemas/Condition" then error["data"].is_a?(Hash) && !error["data"].key?("fact")
        end
      end

      # @return [Array<String>] what a schema calls its fields, wherever it has them from
      def fields_of(schema)
        named = schema["$ref"] ? [source.dig(*schema["$ref"].split("/").drop(1))] : []
        [*schema["properties"]&.keys, *[*named, *schema["allOf"]].flat_map { |one| fields_of(one) }]
      end

      # @return [Hash] the object that holds the field at a pointer
      def part(body, pointer)
        pointer.split("/", -1)[1...-1].reduce(body) do |at, key|
          at.is_a?(Array) ? at[key.to_i] : at[key.gsub("~1", "/").gsub("~0", "~")]
        end
      end

      def problems(error)
        return unknown_kind(error) if error["type"] == "discriminator"

        places = error["type"] == "required" ? error["details"]["missing_keys"].map { |key| "/#{key}" } : [""]
        code = CODES.fetch(error["type"], :wrong_form)
        if error["schema"].is_a?(Hash)
          numbers = { choices: error.dig("schema", "enum")&.join(", "),
                      most: error.dig("schema", "maxItems") }
        end
        places.map do |place|
          { pointer: error["data_pointer"] + place, code: code, detail: Words.of(code, **numbers.to_h) }
        end
      end

      # What says by one field of which kind it is, and says none that there is.
      def unknown_kind(error)
        unless error["data"].is_a?(Hash)
          return [{ pointer: error["data_pointer"], code: :not_an_object,
                    detail: Words.of(:not_an_object) }]
        end

        field, mapping = error.dig("schema", "discriminator").values_at("propertyName", "mapping")
        code = error["data"].key?(field) ? :not_one_of : :missing
        [{ pointer: "#{error["data_pointer"]}/#{field}", code: code,
           detail: Words.of(code, choices: mapping.keys.join(", ")) }]
      end
    end
  end
end
