# frozen_string_literal: true

module Loomshuttle
  module Settings
    # A block of outlets (sockets of the desk, or lanes of a link) that are fed together: the desk output that the first
    # one carries, the others following on; nil: silent. Outlets of each family carry the outputs in order from the start, as far as there
    # are any; a block starts with an output that is a whole number of blocks from the first.
    Outlet = declare("outlet", :outlets, :desk, key: :block, keys: ->(desk) { desk.outlet_blocks.keys }, key_pattern: "[a-z]+-[1-9][0-9]*",
                                                words: ->(_, key) { "Outlets #{key.tr('-', ' block ')}" }) do
      in_order = lambda do |desk, block|
        family = desk.outlet_blocks.select { |name, _| name[/\A[a-z]+/] == block[/\A[a-z]+/] }
        first = 1 + family.take_while { |name, _| name != block }.sum { |_, points| points.size }
        first if first <= desk.mix_outputs
      end
      starts = Kinds.one_known("integer", sort: :count) { |at| (1..at.show.profile.mix_outputs).step(at.show.profile.outlet_blocks.fetch(at.key).size).to_a }

      setting :first, starts.or_none, blank: in_order, words: "first output", part: "outputs", desk: "outlet/%s/first"
    end
  end
end
