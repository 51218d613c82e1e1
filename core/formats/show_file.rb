# frozen_string_literal: true

module Loomshuttle
  module Formats
    # A whole show as one JSON object (schemas/show.schema.json): words about it, every setting that is not blank, and the
    # user-made profiles that its rig stands on, so that it can be opened anywhere.
    module ShowFile
      FORMAT = "loomshuttle-show/1"

      # What a file holds: the show, and profiles that came along.
      Read = Value.define(:show, :profiles)

      # @param show [Settings::Show]
      # @param shipped [Array<String>] ids of the profiles that come with every installation
      # @return [Hash] JSON
      def self.write(show, shipped:)
        ids = [show.rig.desk, show.rig.interface, *show.boxes.values.map(&:profile)].compact.uniq - shipped
        profiles = show.catalog.all.select { |profile| ids.include?(profile.id) }.map(&:to_json_data)
        { "format" => FORMAT, "about" => show.about.transform_keys(&:to_s), "settings" => show.set_settings, "profiles" => profiles }
      end

      # @param data [Hash] already checked against the schema
      # @param catalog [Rig::Catalog]
      # @return [Read]
      # @raise [Invalid] lists every fault, each with its setting's path; nothing is imported
      def self.read(data, catalog)
        profiles = read_profiles(data.fetch("profiles", []), catalog)
        about = data.fetch("about").transform_keys(&:to_sym)
        settings = data.fetch("settings")
        blank = Settings::Show.blank(catalog.with(profiles), about, desk: settings.fetch("rig/desk") { refuse([fault("/settings/rig~1desk", "the show names no desk")]) })
        Read.new(show: put_all(blank, Settings::Retired.out_of(settings.except("rig/desk"))), profiles: profiles)
      rescue Invalid => e
        raise e if e.faults.any?

        refuse([fault(e.where, e.message)])
      end

      class << self
        private

        # A profile of the same id must be the same profile.
        def read_profiles(list, catalog)
          list.filter_map do |data|
            profile = Rig::Profile.from(data)
            known = catalog.all.find { |one| one.id == profile.id }
            refuse([fault("/profiles", "the profile #{profile.id} is another one here; give it another id")]) if known && known.to_json_data != data
            profile unless known
          end
        end

        def put_all(blank, settings)
          faults = []
          show = Settings::Ordering.sort(settings).reduce(blank) do |now, (path, value)|
            now.put(path, value)
          rescue Invalid => e
            faults << fault("/settings/#{path.gsub('~', '~0').gsub('/', '~1')}", e.message)
            now
          end
          refuse(faults.uniq) if faults.any?
          Settings::Limits.check(show)
          show
        end

        def fault(where, message) = Invalid::Fault.new(where: where, message: message)

        def refuse(faults)
          more = faults.size > 1 ? " (and #{faults.size - 1} more)" : ""
          raise Invalid.new("This show cannot be opened here: #{faults.first.message}#{more}", where: faults.first.where, faults: faults)
        end
      end
    end
  end
end
