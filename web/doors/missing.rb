# frozen_string_literal: true

module Loomshuttle
  module Web
    # What an address names is not there: told with 404.
    class Missing < Invalid
    end
  end
end
