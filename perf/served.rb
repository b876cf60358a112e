# frozen_string_literal: true

# The environment of a process that runs as bin/start serves: docs/decisions/0049-compiled-while-it-runs-from-ruby-3-2.md.
compiles = RUBY_VERSION >= "3.2" && system("ruby", "--yjit", "-e", "1", err: File::NULL)
AS_SERVED = (compiles ? { "RUBYOPT" => "--yjit" } : {}).freeze
