# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # The folders of a take: one, or two with a mirror. If one of two fails, the take continues in the other.
    class Copies
      # @param first [TakeFolder]
      # @param rate [Integer] samples a second
      # @yieldparam copy [TakeFolder, PacedFolder] a given-up copy, to be closed
      def initialize(first, rate, &close)
        @copies = { first: first }
        @rate, @close = rate, close
        @problems = {}
      end

      # Adds a second copy; each is written at its own pace.
      # @param root [String] folder of the mirror's takes
      # @yieldreturn [TakeFolder] the new folder there
      def add_mirror(root)
        @mirror = root
        @copies = { **@copies, mirror: yield }.transform_values { |copy| PacedFolder.new(copy) }
      rescue SystemCallError, Invalid => e
        tell(:mirror, 0, e.message.chomp("."))
      end

      # @return [Array<Symbol>] :first and :mirror, if they are still being written
      def written = @copies.keys

      # @return [String] path of the first copy that is still written
      def folder = @copies.each_value.first.path

      # @return [Array<String>] which copies were given up and why, a sentence or two each
      def problems = @problems.values

      # @return [String, nil]
      def mirror_problem = @problems[:mirror]

      # @yieldparam copy [TakeFolder, PacedFolder]
      # @raise [SystemCallError] if the last copy fails
      def each
        @copies.each do |name, copy|
          yield copy
        rescue SystemCallError => e
          raise if @copies.size == 1

          give_up(name, e.message)
        end
      end

      # Closes one of two copies cleanly and continues with the other.
      # @param name [Symbol]   @param why [String]
      # @return [Boolean] whether there is another copy
      def leave(name, why)
        return false if @copies.size == 1

        give_up(name, settled(@copies[name]) || why)
        true
      end

      # @param manifest [Proc] returns the manifest
      # @yieldparam words [String] what went wrong; the next copy's manifest reports it
      def close(manifest, markers, &block)
        @copies.values.reverse_each { |copy| copy.close(manifest.call, markers)&.then(&block) }
      end

      private

      # @return [String, nil] what it met
      def settled(copy)
        copy.settle
        nil
      rescue SystemCallError => e
        e.message
      end

      def give_up(name, why)
        copy = @copies.fetch(name)
        @copies = @copies.except(name)
        tell(name, copy.frames, why, copy.path)
        @close.call(copy)
      end

      def tell(name, frames, why, path = nil)
        what = name == :mirror ? "The mirror in #{@mirror}" : "The copy in #{File.dirname(path)}"
        words = format("%<what>s stopped after %<seconds>.1f s: %<why>s.", what: what, seconds: frames / @rate.to_f, why: why)
        @problems[name] = name == :mirror ? words : "#{words} The take goes on in #{folder}."
      end
    end
  end
end
