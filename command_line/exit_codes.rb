# frozen_string_literal: true

module Loomshuttle
  module CommandLine
    # Exit codes by kind of problem, as in BSD's sysexits(3). 1 is kept for what a command finds, such as a finding that blocks.
    module ExitCodes
      # EX_DATAERR, EX_NOINPUT, EX_TEMPFAIL, EX_UNAVAILABLE, EX_CANTCREAT
      OF = { "invalid" => 65, "not_found" => 66, "stale" => 75, "undecided" => 75, "busy" => 75, "unknown" => 75, "away" => 69, "full" => 73 }.freeze
      # EX_SOFTWARE and EX_USAGE
      DEFECT, USAGE = 70, 64

      # @param kind [String, nil] of a problem, from the API
      # @return [Integer]
      def self.of(kind) = OF.fetch(kind, DEFECT)
    end
  end
end
