# frozen_string_literal: true

# The environment of a process that runs as bin/start serves: compiled while it runs, where this Ruby can.
AS_SERVED = (system("ruby", "--yjit", "-e", "1", err: File::NULL) ? { "RUBYOPT" => "--yjit" } : {}).freeze
