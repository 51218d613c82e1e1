# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Channels on one socket share its preamp, so an edit of one channel's gain or 48 V sets the others as well. In shows of older versions they may
    # differ; then the lowest channel applies (Checks::PreampSetTwice).
    module SharedPreamp
      FIELDS = %i[gain phantom].freeze
      # Settings by which channels come to share a preamp.
      TOUCHED, MOVED = %r{\Achannel/(\d+)/(?:stage|gain|phantom)\z}, %r{\A(?:box|rig)/}
      private_constant :TOUCHED, :MOVED

      class << self
        # The two preamps of a stereo channel are set as one.
        # @param show [Show]
        # @return [Array<Array<Channel>>] groups of two or more channels that share a preamp, lowest number first
        def groups(show) = show.memo(:shared_preamps) { find_groups(show) }

        # @return [Hash{Integer=>Channel}] number of a channel with a shared preamp => the channel whose gain and 48 V count
        def leaders(show) = groups(show).each_with_object({}) { |list, found| list.each { |channel| found[channel.number] = list.first } }

        # @param show [Show]
        # @return [Show] with a single gain and 48 V for each preamp
        def settled(show) = show.memo(:settled_preamps) { settle(show) }

        # What else an edit must set. The channel that used a socket first decides its preamp for channels that join; values that the edit itself sets differently stay.
        # @param before [Show]   @param after [Show] with the edit   @param given [Hash{String=>Object}] its settings
        # @return [Hash{String=>Object}]
        def along(before, after, given)
          moved = given.keys.any? { |path| MOVED.match?(path) }
          numbers = given.keys.filter_map { |path| path[TOUCHED, 1]&.to_i }
          return {} unless moved || numbers.any?

          touched = groups(after).select { |list| moved || list.any? { |channel| numbers.include?(channel.number) } }
          touched.reduce({}) { |more, list| FIELDS.reduce(more) { |so_far, field| so_far.merge(chosen(before, after, list, field, given)) } }
        end

        private

        def find_groups(show)
          lists = {}
          show.channels.each_value do |channel|
            sockets = sockets(show, channel)
            known = sockets.filter_map { |socket| lists[socket] }.uniq(&:object_id)
            list = known.flatten(1) << channel
            [*sockets, *sockets_of(lists, known)].each { |socket| lists[socket] = list }
          end
          lists.values.uniq(&:object_id).select { |list| list.size > 1 }.map { |list| list.sort_by(&:number).freeze }.freeze
        end

        def settle(show)
          groups(show).reduce(show) do |now, list|
            FIELDS.reduce(now) { |so_far, field| alike(so_far, list, field, list.first[field]).reduce(so_far) { |one, (path, value)| one.put(path, value) } }
          end
        end

        # @param known [Array<Array<Channel>>] lists that become one; most often none, and nothing is looked for
        def sockets_of(lists, known) = known.empty? ? [] : lists.select { |_, one| known.any? { |other| other.equal?(one) } }.keys

        # @return [Array<Rig::Point>] what it has preamps at
        def sockets(show, channel)
          return [] if channel.stage.nil? || channel.card_fed?

          show.profile.strip(channel.number).width.times.filter_map { |side| channel.stage.beside(side) }.map { |point| show.layout.socket_of(point) }
        end

        def chosen(before, after, list, field, given)
          named = list.select { |channel| given.key?("channel/#{channel.number}/#{field}") }
          return {} if named.map(&field).uniq.size > 1

          alike(after, list, field, (named.first || list.find { |channel| stays?(before, after, channel) } || list.first)[field])
        end

        def stays?(before, after, channel)
          old = before.channels[channel.number]
          !old.nil? && sockets(before, old) == sockets(after, channel)
        end

        # Preamps of another range keep what they have, where they cannot have this.
        def alike(show, list, field, value)
          list.reject { |channel| channel[field] == value }.to_h { |channel| ["channel/#{channel.number}/#{field}", value] }.select do |path, one|
            Path.parse(show, path).keep(one)
          rescue Invalid
            false
          end
        end
      end
    end
  end
end
