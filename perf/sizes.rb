# frozen_string_literal: true

# How much a benchmark does: all of it, or next to nothing where a test only sees whether it still runs
# (GATE_MILE_PERF=tiny). What a tiny run measures says nothing.
TINY = ENV["GATE_MILE_PERF"] == "tiny"

# @param full [Object]
# @param tiny [Object]
# @return [Object] the one that counts
def sized(full, tiny) = TINY ? tiny : full

# Ports apart from those of a run beside it.
PORTS = Integer(ENV.fetch("GATE_MILE_PERF_PORT", "4188"))
