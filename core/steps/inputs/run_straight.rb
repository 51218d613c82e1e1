# frozen_string_literal: true

module Loomshuttle
  module Steps
    # Patches a range in order: targets first to first+count-1 get the sources from start on. A stereo channel or track takes two sources.
    module RunStraight
      # column => [what is set, kind of target, words for the sources]
      COLUMNS = {
        "socket" => { group: "channel", field: "stage", words: "sockets" },
        "send" => { group: "send", field: "source", words: "channels" },
        "track_input" => { group: "track", field: "inputs", words: "card sends" },
        "track_output" => { group: "track", field: "outputs", words: "card returns" },
        "return" => { group: "channel", field: "take", words: "card returns" }
      }.freeze

      # @param show [Settings::Show]
      # @param column [String] a key of COLUMNS
      # @param first [Integer] first channel, send or track to set
      # @param count [Integer] how many
      # @param start [Integer, String] number of the first source, 1-based: n-th present socket, channel lane or card
      #   lane; for sockets and channel lanes also the name of its point
      # @return [Settings::Edit] with what moves along on a desk that patches in blocks
      # @raise [Invalid] if the range or its sources exceed the device
      def self.edit(show, column:, first:, count:, start:)
        kind = COLUMNS[column] or raise Invalid.new("Patch in order knows #{COLUMNS.keys.join(', ')}, not \"#{column}\".", where: "column")
        targets = targets(show, kind, first, count)
        sources = sources(show, column)
        width = targets.sum { |number| width(show, kind, number) }
        start = place(sources, start) if start.is_a?(String)
        inside(kind[:words], start, width, sources.size)
        Settings::Edit.set(label(kind, first, count, start), Completed.settings(show, settings(show, kind, targets, sources.drop(start - 1))))
      end

      class << self
        private

        def targets(show, kind, first, count)
          all = show.group(Settings.collection(kind[:group])).size
          fits = first >= 1 && count >= 1 && first + count - 1 <= all
          return (first...(first + count)).to_a if fits

          raise Invalid.new("A run of #{count} from #{kind[:group]} #{first} leaves the desk: it has #{all}.", where: "first")
        end

        def place(sources, point)
          at = sources.index(Rig::Point.read(point)) or raise Invalid.new("A run cannot start at #{point}: there is no such source in this rig.", where: "start")
          at + 1
        end

        def inside(words, start, width, known)
          return if start >= 1 && start + width - 1 <= known

          raise Invalid.new("A run of #{width} from #{start} leaves the device: it has #{known} #{words}.", where: "start")
        end

        def sources(show, column)
          profile = show.profile
          case column
          when "socket" then show.layout.sources.reject(&:missing).map(&:point)
          when "send" then profile.all_channel_points
          when "track_input" then (1..profile.sends).to_a
          when "track_output" then (1..profile.returns).to_a
          when "return" then profile.return_points
          end
        end

        def width(show, kind, number)
          case kind[:group]
          when "channel" then show.profile.strip(number).width
          when "track" then show.tracks[number].width
          else 1
          end
        end

        def settings(show, kind, targets, sources)
          targets.each_with_object({}) do |number, set|
            taken = sources.shift(width(show, kind, number))
            set["#{kind[:group]}/#{number}/#{kind[:field]}"] = kind[:group] == "track" ? taken : taken.first.name
          end
        end

        def label(kind, first, count, start)
          range = count == 1 ? first.to_s : "#{first} to #{first + count - 1}"
          "Patch in order: #{kind[:group]} #{range} from #{kind[:words].delete_suffix('s')} #{start}"
        end
      end
    end
  end
end
