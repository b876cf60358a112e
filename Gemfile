# frozen_string_literal: true

source "https://rubygems.org"

ruby ">= 3.1"

gem "activerecord", "~> 7.2"
gem "bcrypt", "~> 3.1"
gem "bootsnap", "~> 1.26", require: false
gem "connection_pool", "~> 2.5"
gem "countries", "~> 7.0"
gem "faraday", "~> 2.12"
gem "faraday-net_http_persistent", "~> 2.3"
gem "holidays", "~> 8.8"
gem "json", "~> 2.10"
gem "json_schemer", "~> 2.5"
gem "prometheus-client", "~> 5.0"
gem "puma", "~> 8.0"
gem "rack", "~> 3.2"
gem "rack-attack", "~> 6.7"
gem "rack-protection", "~> 4.2"
gem "redis", "~> 5.4"
gem "rotp", "~> 6.3"
gem "rqrcode", "~> 3.1"
gem "sinatra", "~> 4.2"
gem "sqlite3", "~> 2.8"
gem "standardwebhooks", "~> 1.0.1"
gem "stoplight", "~> 4.1"
gem "tzinfo", "~> 2.0"
gem "tzinfo-data", "~> 1.2025"
gem "zeitwerk", "~> 2.6"
gem "zxcvbn-ruby", "~> 1.4", require: false

group :development, :test do
  gem "benchmark-ips", "~> 2.14"
  gem "bundler-audit", "~> 0.9", require: false
  gem "capybara", "~> 3.40"
  gem "cuprite", "~> 0.19"
  gem "json-canonicalization", "~> 1.0", require: false
  gem "minitest", "~> 5.27"
  gem "money", "~> 7.0"
  gem "pairwise", "~> 0.2", require: false
  gem "prism", "~> 1.7"
  gem "prop_check", "~> 1.0"
  gem "rack-test", "~> 2.2"
  gem "rubocop", "~> 1.92"
  gem "stackprof", "~> 0.2", require: false
  gem "uk_postcode", "~> 2.1"
  gem "unitwise", "~> 2.3"
end
