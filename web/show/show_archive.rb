# frozen_string_literal: true

module Loomshuttle
  module Web
    # Everything that is stored beside the open show: other shows, device profiles and presets, with their import and export.
    class ShowArchive
      # @return [Store::Presets]
      attr_reader :presets

      # @param control [Control]  @param presets [Store::Presets]
      def initialize(control, presets:)
        @control = control
        @presets = presets
      end

      # @return [Array<Hash>] id, version, open, about, created_at of all shows, newest first
      def shows = @control.shows.list

      # Creates a show: empty on a desk, from another show, or from a file. It is not opened.
      # @param about [Hash, nil] :name and more; a file has its own
      # @param desk [String, nil] id of a profile  @param like [Integer, nil] id of a show to copy
      # @param file [Hash, nil] JSON of a show file
      # @return [Integer] its id
      # @raise [Invalid]
      def create_show(about: nil, desk: nil, like: nil, file: nil)
        return import(file, about) if file

        raise Invalid.new("A new show needs a name.", where: "about/name") if about.to_h[:name].to_s.strip.empty?
        raise Invalid.new("A new show starts from a desk or from another show.", where: "desk") unless desk || like

        @control.shows.create(about, like ? template(like) : { "rig/desk" => desk })
      end

      # @return [Hash] the open show as file content
      def show_file
        shipped = profiles.select { |one| one[:shipped] }.map { |one| one[:id] }
        Formats::ShowFile.write(@control.current.show, shipped: shipped)
      end

      # @return [Array<Hash>] id, kind, name, shipped and data of all profiles
      def profiles
        @control.shows.profiles.catalog.all.map do |profile|
          { id: profile.id, kind: profile.kind, name: profile.name, shipped: @control.shows.profiles.shipped?(profile.id), data: profile.to_json_data }
        end
      end

      # Stores a user's profile after checking it against the published schema and as a device.
      # @return [String] its id
      # @raise [Invalid] lists each fault with its place
      def keep_profile(data)
        Schemas.check(:profile, data)
        id = @control.shows.profiles.keep(data).id
        @control.forget
        id
      end

      def delete_profile(id)
        @control.shows.profiles.delete(id)
        @control.forget
      end

      # Saves parts of the open show's patch as a preset.
      # @return [Integer] id
      def keep_preset(name, parts, who)
        raise Invalid.new("A preset needs a name.", where: "name") if name.strip.empty?

        @presets.keep(name.strip, parts, Settings::PresetParts.of(@control.current.show, parts), who)
      end

      private

      # A new engagement starts on stage, with nothing accepted yet.
      def template(id)
        @control.shows.load(id).show.set_settings.reject { |path, _| path == "setup/accepted" || path.end_with?("/position") }
      end

      def import(file, about)
        Schemas.check(:show, file)
        store = @control.shows
        read = Formats::ShowFile.read(file, store.profiles.catalog)
        read.profiles.each { |profile| keep_profile(profile.to_json_data) }
        store.create(about || told_apart(read.show.about), read.show.set_settings)
      end

      # A show that comes a second time gets a number, so that nobody opens the wrong one.
      def told_apart(about)
        taken = @control.shows.list.map { |show| show[:about][:name] }
        name = [about[:name], *(2..(taken.size + 2)).map { |number| "#{about[:name]} (#{number})" }].find { |one| !taken.include?(one) }
        about.merge(name: name)
      end
    end
  end
end
