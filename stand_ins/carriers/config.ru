# frozen_string_literal: true

require "bundler/setup"
require "uri"
require_relative "carriers"

run Carriers.new
