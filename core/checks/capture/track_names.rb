# frozen_string_literal: true

module Loomshuttle
  module Checks
    # Armed tracks without a name, or with the same name. Their files would have to be sorted by ear. Tracks without a source are reported
    # elsewhere.
    module TrackNames
      def self.findings(context)
        show = context.show
        armed = show.tracks.values.select(&:armed)
        titles = armed.to_h { |track| [track, show.title_of(track)] }
        unnamed(titles.select { |track, _| track.inputs.any? { |lane| show.sends[lane]&.source } }) + double(show, titles)
      end

      class << self
        private

        def unnamed(titles)
          titles.select { |track, title| title == "Track #{track.number}" }.keys.map do |track|
            Finding.new(id: "track-names/#{track.number}", check: "track-names", severity: Finding::LOOK,
                        sentence: "Track #{track.number} is armed and has no name.", path: track.points("in"), at: track.points("in"), fix: nil)
          end
        end

        def double(show, titles)
          titles.keys.group_by { |track| titles[track].downcase }.values.select { |tracks| tracks.size > 1 }.map do |tracks|
            title = titles[tracks.first]
            Finding.new(id: "track-names/#{tracks.map(&:number).join('-')}", check: "track-names", severity: Finding::LOOK,
                        sentence: "Tracks #{tracks.map(&:number).join(' and ')} are both called #{title}.",
                        path: tracks.flat_map { |track| track.points("in") }, at: tracks.flat_map { |track| track.points("in") },
                        fix: after_sources(show, tracks, titles) || number(tracks, title))
          end
        end

        # Their sources' names, where those tell them apart from all others.
        def after_sources(show, tracks, titles)
          own = tracks.map { |track| show.title_of(track.with(name: "")).downcase }
          others = titles.except(*tracks).values.map(&:downcase)
          return if own.uniq.size < own.size || own.intersect?(others) || tracks.any? { |track| track.inputs.empty? }

          Settings::Edit.set("Name tracks #{tracks.map(&:number).join(' and ')} after their sources", tracks.to_h { |track| ["track/#{track.number}/name", ""] })
        end

        def number(tracks, title)
          Settings::Edit.set("Number the tracks called #{title}",
                             tracks.each.with_index(1).to_h { |track, nth| ["track/#{track.number}/name", "#{title} #{nth}"[0, Settings::NAME]] })
        end
      end
    end
  end
end
