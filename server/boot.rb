# frozen_string_literal: true

# Loads the application: the core, the libraries and, through Zeitwerk, everything under server/.

# All our files are UTF-8, whatever the machine's locale is: a service has often none.
Encoding.default_external = Encoding::UTF_8
ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "bootsnap"
# What Ruby makes of each file is put aside, where it can be: every command here begins in half the time.
Bootsnap.setup(cache_dir: File.expand_path("../tmp", __dir__), compile_cache_yaml: false,
               readonly: !File.writable?(File.expand_path("../tmp", __dir__)))
require "json"
require "securerandom"
require "logger"
require "active_record"
require "sinatra/base"
require "zeitwerk"

$LOAD_PATH.unshift(File.expand_path("../core", __dir__)) unless $LOAD_PATH.include?(File.expand_path("../core",
                                                                                                     __dir__))
require "gate_mile"

# The application around the core: HTTP, database, imports and exports.
module Server
  ROOT = File.expand_path("..", __dir__)

  # The folders of server/, from the ground up. Each may use the ones before it and none after it
  # (test/server/floors_test.rb). docs/architecture.md describes each of them.
  FLOORS = %w[ground reference records history carriers people goods books tables proofs webhooks releases views backups
              watching http checkout quoting shop routes].freeze
  # Those whose names stand in a module of their own.
  NAMESPACES = %w[records carriers routes].freeze

  LOADER = Zeitwerk::Loader.new.tap do |loader|
    loader.push_dir(__dir__, namespace: Server)
    (FLOORS - NAMESPACES).each { |floor| loader.collapse(File.join(__dir__, floor)) }
    loader.ignore(__FILE__, File.join(__dir__, "prepare.rb"), File.join(__dir__, "db"),
                  File.join(__dir__, "config.ru"), File.join(__dir__, "puma.rb"), File.join(__dir__, "quotes.ru"),
                  File.join(__dir__, "quotes_puma.rb"), File.join(__dir__, "courier.rb"),
                  File.join(__dir__, "commands"))
    loader.setup
  end
  private_constant :LOADER

  # @return [void] loads every file now, as a server that answers in threads should
  def self.eager_load
    GateMile.load_all
    LOADER.eager_load
  end
end
