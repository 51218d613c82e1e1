# frozen_string_literal: true

module Loomshuttle
  module Supervisor
    # The start cannot go on. The message is the one clear sentence that the person gets.
    class Failed < StandardError; end
  end
end
