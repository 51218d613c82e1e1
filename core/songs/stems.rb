# frozen_string_literal: true

module Loomshuttle
  module Songs
    # What the files of a folder are in a song, by their names: sides of one stem, and its role. Words in every name (the song, the date, the tempo)
    # are ignored.
    module Stems
      # paths: one, or left and right     name: of the first     role, kind: of it     lanes     notes: sentences
      Found = Value.define(:paths, :name, :role, :kind, :lanes, :notes)
      # A tempo in a name: "96bpm", "96 BPM".
      BPM = /(?<!\d)(\d{2,3}(?:[.,]\d{1,2})?) ?bpm\b/i
      WORDS = { "klick" => "click", "metronome" => "click", "cue" => "guide", "cues" => "guide" }.freeze

      class << self
        # @param sounds [Array<Delivery::Sound>]
        # @return [Array<Found>] in the order of their names
        def of(sounds)
          common = sounds.size > 1 ? sounds.map { |one| words(one) }.reduce(:&) : []
          first = sounds.size > 1 ? head(sounds.map { |one| words(one) }) : 0
          pairs(sounds).map { |group| found(group, common, first) }.then { |all| apart(all) }
        end

        # @param names [Array<String>] of files and folders
        # @return [Float, nil] tempo found in the names, in quarter notes per minute
        def bpm(names) = names.filter_map { |name| name[BPM, 1]&.tr(",", ".") }.map(&:to_f).find { |bpm| Timing::TempoMap::BPM.cover?(bpm) }

        private

        # How many letters all names begin with, up to where a word ends in each of them: "RopeWalk strings" and "ropewalk loop" have the song's name.
        def head(names)
          ends = names.map { |words| words.inject([0]) { |all, word| all << (all.last + word.size) } }.reduce(:&)
          joined = names.map(&:join)
          ends.select { |at| joined.map { |name| name[0, at] }.uniq.size == 1 }.max
        end

        def behind(words, letters)
          words.drop_while { |word| (letters -= word.size) >= 0 }
        end

        def words(sound) = sound.name.words.grep_v(/\A\d*bpm\z/)

        # Left and right of one name, both mono.
        def pairs(sounds)
          groups = sounds.group_by { |one| one.name.words }.values
          groups.flat_map { |group| pair?(group) ? [group.sort_by { |one| one.name.side }] : group.map { |one| [one] } }
            .sort_by { |group| File.basename(group.first.path).downcase }
        end

        def pair?(group) = group.size == 2 && group.map { |one| one.name.side }.tally == { left: 1, right: 1 } && group.all? { |one| one.lanes == 1 }

        def found(group, common, letters)
          first = group.first
          left = behind(words(first), letters).map { |word| WORDS.fetch(word, word) } - common - ["bpm"]
          left = words(first).map { |word| WORDS.fetch(word, word) } if left.empty?
          left = left.grep_v(/\A\d+\z/) if left.any? { |word| word.match?(/\D/) }
          role = left.join(" ").capitalize[0, 40]
          role = "Stem" if role.empty?
          Found.new(paths: group.map(&:path), name: File.basename(first.path, ".*")[0, 80], role: role, kind: Role.kind_of(role),
                    lanes: group.size == 2 ? 2 : first.lanes.clamp(1, 2), notes: notes(group))
        end

        def notes(group)
          [group.size == 2 ? "left and right become one stereo stem" : nil, group.first.lanes > 2 ? "the first two of #{group.first.lanes} channels are used" : nil].compact
        end

        # Two of one role are two parts of it; that is meant, and said.
        def apart(all)
          often = all.map(&:role).tally.select { |_, count| count > 1 }
          all.map { |one| often.key?(one.role) ? one.with(notes: one.notes + ["#{often[one.role]} files play together as #{one.role}"]) : one }
        end
      end
    end
  end
end
