# frozen_string_literal: true

require "json"

module Loomshuttle
  module Web
    module Routes
      # Takes that were captured: words, names and markers, the bin, pictures of their loudness, and their sound.
      module TakeRoutes
        SOME = %w[id number name state note notes colour rate bits frames started_at gaps gaps_total breaks markers folder project].freeze
        BLANK = { "notes" => "", "colour" => nil, "markers" => [], "breaks" => [], "gaps" => [], "note" => nil, "project" => "" }.freeze

        def self.registered(app)
          app.get("/api/takes") { content_type(:json) && TakeRoutes.list(@control.shelf.all) }
          app.get("/api/takes/:take") { json(TakeRoutes.take_hash(@control.shelf.find(params["take"]))) }
          app.get("/api/takes/:take/by-name") { json(TakeRoutes.by_name(@control.shelf.find(params["take"]), @control.latest.show)) }
          app.post("/api/takes/:take") do
            take = @control.shelf.find(params["take"])
            @control.recorder.call("take.change", take: take["id"], **body_json.slice("name", "notes", "colour", "markers", "tracks").transform_keys(&:to_sym))
            @control.shelf.reconcile
            json(TakeRoutes.take_hash(@control.shelf.find(params["take"])))
          end
          register_sound(app)
          register_bin(app)
        end

        def self.register_sound(app)
          app.get("/api/takes/:take/waveform") do
            take = @control.shelf.readable(params["take"])
            range = { from: params["from"].to_i, to: params["to"]&.to_i || take["frames"], track: params["track"]&.to_i }
            json({ frames: take["frames"], peaks: Waveform.new(take).columns((params["points"] || 600).to_i, **range) })
          end
          app.get("/api/takes/:take/listen") do
            take = @control.shelf.readable(params["take"])
            mix = QuickMix.new(take, track: params["track"]&.to_i, from: params["from"].to_i, ears: ears_of(take))
            flow(mix, "content-type" => "audio/wav", "cache-control" => "no-store")
          end
        end

        def self.register_bin(app)
          app.post("/api/takes/:take/discard") do
            @control.recorder.call("take.discard", take: @control.shelf.find(params["take"])["id"])
            @control.shelf.reconcile
            json({ done: true })
          end
          app.get("/api/bin") { json(@control.recorder.call("bin").map { |take| take.slice("number", "name", "frames", "rate", "started_at", "bytes") }) }
          app.post("/api/bin/restore") do
            @control.recorder.call("bin.restore", number: body_json["take"])
            @control.shelf.reconcile
            json({ done: true })
          end
          app.post("/api/bin/empty") { json(@control.recorder.call("bin.empty")) }
        end

        private_class_method :register_sound, :register_bin

        @told = {}.compare_by_identity
        @telling = Mutex.new # held while the list is put together

        # Writes each take as JSON once, until it changes.
        # @param takes [Array<Hash>]
        # @return [String] JSON
        def self.list(takes)
          @telling.synchronize do
            return @list if @listed.equal?(takes) && takes.none? { |take| take["state"] == "capturing" }

            told = {}.compare_by_identity # else each take would be compared as a whole
            takes.each { |take| told[take] = (@told[take] unless take["state"] == "capturing") || JSON.generate(take_hash(take)) }
            @told, @listed = told, takes
            @list = "[#{told.values.join(',')}]"
          end
        end

        Known = Value.define(:name, :outputs)
        private_constant :Known

        # Where the tracks of another show's take would play (schema TakeByName).
        # @param take [Hash] manifest   @param show [Settings::Show]
        def self.by_name(take, show)
          known = show.tracks.values.map { |track| Known.new(name: show.title_of(track), outputs: track.outputs) }
          found = Formats::TrackMatching.of(take["tracks"], known)
          { other_show: Formats::TrackMatching.other_show?(take, show.about.fetch(:name, "")), project: take["project"].to_s,
            matched: found.matched.values.map { |one| { name: one.name, outputs: one.outputs } }, missing: found.missing }
        end

        # @param take [Hash] manifest with "folder"
        def self.take_hash(take)
          tracks = take["tracks"].map { |track| { "clips" => 0, "rests" => [] }.merge(track, "path" => File.join(take["folder"], track["file"])) }
          gaps = take["gaps"].to_a
          BLANK.merge(take.slice(*SOME)).merge("tracks" => tracks, "bytes" => TakeRoutes.bytes(take), "missing" => Audio::Gaps.in_time(gaps),
                                               "gaps_total" => take["gaps_total"] || counted(gaps))
        end

        # Older takes have no totals, but list all their gaps.
        def self.counted(gaps) = { "count" => gaps.size, "frames" => gaps.sum { |gap| gap["frames"] }, "unlisted" => 0 }

        # Bytes of audio on the disk; paused stretches take none.
        def self.bytes(take)
          take["tracks"].sum { |track| track["inputs"].size * (take["frames"] - track.fetch("rests", []).sum { |_, frames| frames.to_i }) * take["bits"] / 8 }
        end
      end
    end
  end
end
