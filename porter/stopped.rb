# frozen_string_literal: true

module Loomshuttle
  module Porter
    # The process ends while a job is under way.
    class Stopped < StandardError; end
  end
end
