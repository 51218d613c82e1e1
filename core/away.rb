# frozen_string_literal: true

module Loomshuttle
  # A part of the application, such as the recorder, is offline or does not answer in time. `where` names the part.
  class Away < Problem
    KIND = :away
  end
end
