# frozen_string_literal: true

require "fileutils"
require "json"
require "securerandom"
require "time"

module Loomshuttle
  module Web
    # The porter's jobs in their folders (Formats::JobFile): created, listed, cancelled and deleted here.
    class Jobs
      FILE = Formats::JobFile::FILE
      SHEET = "patch sheet.pdf"
      # Jobs that wait at once.
      MOST = 50
      # How long finished jobs are kept (seconds), and how many.
      AGE, KEPT = 30 * 24 * 3600, 200

      # @param home [String] folder of this instance
      def initialize(home)
        @root = File.expand_path(File.join(home, "jobs"))
        @looking = Mutex.new # held while folders are looked at
        @index = Runtime::FolderIndex.new(@root, FILE, settled: lambda { |job|
          !Formats::JobFile::OPEN.include?(job["state"]) && job["state"] != Formats::JobFile::UNREADABLE
        }) do |path|
          read(path) if File.directory?(path)
        end
      end

      # @param take [Hash] manifest with "folder"   @param form ["folder", "zip"]   @param sound [String, nil] as Porter::SoundForm has it; nil: as captured
      # @param sheet [String, nil] bytes of the patch sheet   @param place [String, nil] target folder; nil to keep it here for download
      # @return [Hash] the job
      # @raise [Invalid]
      def export(take, form:, tracks: nil, from: nil, to: nil, part: nil, sound: nil, sheet: nil, place: nil, who: nil)
        name = Formats::FileNames.safe([format("%04d", take["number"]), take["name"], part].compact.join(" "), most: 80)
        make({ "kind" => "export", "take" => take["folder"], "number" => take["number"], "name" => name, "form" => form,
               "tracks" => tracks, "from" => from, "to" => to, "sound" => sound, "who" => who, **(place ? { "place" => place } : {}) }, sheet ? { SHEET => sheet } : {})
      end

      # @param items [Array<Hash>] title, track, lanes, offset and files (Porter::BringIn)
      # @return [Hash] the job
      # @raise [Invalid]
      def bring_in(name:, rate:, project:, items:, who: nil)
        raise Invalid.new("A take needs a name.", where: "name") if name.to_s.strip.empty?
        raise Invalid.new("Choose at least one file.", where: "items") if items.empty?
        raise Invalid.new("Two files cannot go to one track.", where: "items") unless items.filter_map { |item| item["track"] }.then { |all| all.uniq == all }

        make({ "kind" => "bring-in", "name" => name.strip, "rate" => rate, "project" => project, "items" => items, "started_at" => Time.now.iso8601, "form" => "take",
               "notes" => "Brought in", "who" => who }, {})
      end

      # @param stems [Array<Hash>] name, role, lanes, wide and files (Porter::BringSong)
      # @param midi [String, nil] path of a MIDI file   @param bpm [Float, nil] tempo found in a file name
      # @return [Hash] the job
      # @raise [Invalid]
      def song(name:, rate:, stems:, midi: nil, bpm: nil, who: nil)
        raise Invalid.new("A song needs a name.", where: "name") if name.to_s.strip.empty?
        raise Invalid.new("Choose at least one file.", where: "stems") if stems.empty?

        make({ "kind" => "song", "name" => name.strip[0, 80], "rate" => rate, "stems" => stems, "midi" => midi, "bpm" => bpm, "form" => "song", "who" => who }, {})
      end

      # @param folder [String] of a song   @param asked [Hash] as PlayOrder#to_render
      # @return [Hash] the job
      def render(folder, name, asked, who: nil)
        make({ "kind" => "render", "name" => Formats::FileNames.safe(name), "song" => folder, "form" => "folder", "who" => who, **asked }, {})
      end

      # @param folder [String] of a song   @param tempo [Integer] percent   @param key [Integer] semitones
      # @return [Hash] the job
      def vary(folder, name, tempo, key, who: nil)
        raise Invalid.new("At 100 % in its own key there is nothing to render.", where: "tempo") if Songs::Varied.plain?(tempo, key)

        title = "#{name}, #{Songs::Varied.words(tempo, key)}"[0, 200]
        make({ "kind" => "vary", "name" => title, "song" => folder, "tempo" => tempo, "key" => key, "form" => "song", "who" => who }, {})
      end

      # @return [Array<Hash>] jobs whose takes the recorder has not adopted yet
      def ready(jobs = all) = jobs.select { |job| job["kind"] == "bring-in" && job["state"] == "done" && Dir.exist?(job["result"]) }

      # @return [Array<Hash>] all jobs, newest first, including unreadable ones
      def all = @looking.synchronize { @index.all }.sort_by { |job| job["made_at"] }.reverse

      # Deletes old finished jobs and their results here; results that still have to be adopted, and results elsewhere, stay.
      # @param now [Time]
      def clear(now = Time.now)
        over = all.reject { |job| Formats::JobFile::OPEN.include?(job["state"]) }
        waiting = over.select { |job| %w[bring-in song vary].include?(job["kind"]) && job["state"] == "done" && job["result"] && Dir.exist?(job["result"]) }
        (over - waiting).each.with_index do |job, at|
          FileUtils.rm_rf(folder(job)) if at >= KEPT || now - Time.iso8601(job["made_at"]) > AGE
        rescue ArgumentError, SystemCallError
          next
        end
      end

      # @return [Array<Hash>] jobs whose songs the library has not adopted yet
      def ready_songs(jobs = all) = jobs.select { |job| job["kind"] == "song" && job["state"] == "done" && Dir.exist?(job["result"]) }

      # @return [Array<Hash>] jobs whose prepared stems the library has not adopted yet
      def ready_stems(jobs = all) = jobs.select { |job| job["kind"] == "vary" && job["state"] == "done" && Dir.exist?(job["result"]) }

      # @raise [Invalid] if there is none
      def find(id) = all.find { |job| job["id"] == id } || raise(NotFound.new("This job no longer exists.", where: "job"))

      # Asks the porter to cancel a job.
      def cancel(id) = FileUtils.touch(File.join(folder(find(id)), "cancel"))

      # Deletes a job and its result.
      # @raise [Invalid] while it is running
      def delete(id)
        job = find(id)
        raise Invalid.new("It is still running; cancel it first.", where: "job") if Formats::JobFile::OPEN.include?(job["state"])

        FileUtils.rm_rf(folder(job))
      end

      private

      def make(data, files)
        raise Invalid.new("#{MOST} jobs are already waiting. Let some finish first.", where: "job") if all.count { |job| Formats::JobFile::OPEN.include?(job["state"]) } >= MOST

        id = SecureRandom.uuid
        job = Formats::JobFile.check({ "id" => id, **data, "state" => "waiting", "done" => 0, "total" => 0, "made_at" => Time.now.iso8601(3) })
        folder = File.join(@root, id)
        FileUtils.mkdir_p(folder)
        files.each { |name, bytes| Runtime::Files.write(File.join(folder, name), bytes) }
        Runtime::Files.replace(File.join(folder, FILE), Formats::JobFile.dump(job))
        job
      end

      def folder(job) = File.join(@root, File.basename(job["id"]))

      # One that is being made has no file yet, for a moment.
      def read(folder)
        id = File.basename(folder)
        job = Formats::JobFile.read(folder)
        job["result"] && !job["place"] ? job.merge("result" => here(folder, id, job["result"])) : job
      rescue Errno::ENOENT
        nil
      rescue SystemCallError, Invalid => e
        Formats::JobFile.unreadable(id, Text.readable(e.message, most: 300), File.mtime(folder))
      end

      # A home that was moved has its results where it is now.
      def here(folder, id, result) = File.join(folder, result.split("/#{id}/", 2).last.to_s.delete_prefix("/"))
    end
  end
end
