# frozen_string_literal: true

module Loomshuttle
  module Runtime
    # The processor priority of this process, as far as the system allows it.
    module Priority
      class << self
        # Puts audio before screens.
        def first = set(-10)

        # For work that can wait.
        def last = set(10)

        private

        def set(nice)
          Process.setpriority(Process::PRIO_PROCESS, 0, nice)
        rescue SystemCallError
          nil
        end
      end
    end
  end
end
