# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Assigns the outputs of all roles at once.
    module PlaybackOutputs
      class << self
        # Two outputs: parts for the audience on the first, click and guide for the band on the second.
        # @param show [Settings::Show]   @param first [Integer] output
        # @return [Settings::Edit]
        # @raise [Invalid] if there are no roles
        def split(show, first: 1)
          raise Invalid.new("There are no roles yet; add a song to the running order first.", where: "role/order") if show.roles.empty?

          settings = show.roles.values.reject { |role| %w[pilot timecode].include?(role.kind) }
            .to_h { |role| ["role/#{role.number}/outputs", [Songs::Role::CUES.include?(role.kind) ? first + 1 : first]] }
          Settings::Edit.set("Parts on output #{first}, click and guide on output #{first + 1}", settings)
        end

        # Cables a row of outputs to a row of sockets.
        # @param first [Integer] output   @param count [Integer]   @param socket [String] of the first one; "" unplugs all
        # @return [Settings::Edit]
        # @raise [Invalid] if there are fewer outputs or sockets
        def cable(show, first:, count:, socket:)
          numbers = (first...(first + count)).to_a
          within = numbers.any? && show.cables.key?(numbers.first) && show.cables.key?(numbers.last)
          raise Invalid.new("Playback has outputs 1 to #{show.cables.size}.", where: "first") unless within

          sockets = socket.empty? ? [nil] * count : run(show, socket, count)
          Settings::Edit.set("Playback outputs #{[numbers.first, numbers.last].uniq.join(' to ')}: #{socket.empty? ? 'no cables' : "to #{Rig::Label.for(sockets.first)} on"}",
                             numbers.zip(sockets).to_h { |number, point| ["cable/#{number}/to", point&.name] })
        end

        private

        def run(show, socket, count)
          from = Rig::Point.of(socket)
          sockets = (0...count).map { |step| from.beside(step) }
          known = show.layout.sockets
          beyond = sockets.find { |point| !known.include?(point) } or return sockets
          raise Invalid.new("The rig has no socket #{Rig::Label.for(beyond)}.", where: "socket")
        end
      end
    end
  end
end
