# frozen_string_literal: true

# Runs the named test files, or all below the named folders.
require "minitest/autorun"

files = ARGV.flat_map { |path| File.directory?(path) ? Dir[File.join(path, "**", "*_test.rb")] : [path] }
ARGV.clear
files.each { |file| require File.expand_path(file) }
