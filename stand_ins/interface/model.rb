# frozen_string_literal: true

require "json"

module Loomshuttle
  module StandIns
    module Interface
      # What a playback interface has: outputs at its rate, and how many computers play to it. Read from the rig file and its profile.
      class Model
        MODE = Shape.record({ "rate" => Desk::RigFile::RATE, "bits" => Shape.whole(16..32), "outputs" => Shape.whole(1..64) })
        PROFILE = Shape.record({ "id" => Desk::RigFile::ID, "name" => Shape.text(most: 80), "outputs" => Shape.whole(1..64), "computers" => Shape.whole(1..2),
                                 "modes" => Shape.list(MODE, most: 32, least: 1) }, { "changeover" => Shape.text(most: 20) })
        # The one that stands there where a rig names none.
        USUAL = "fern-12-twin"

        attr_reader :id, :name, :rate, :bits, :outputs, :computers

        # @param rig [Hash] as the desk's (docs/desk-control.md): "interface", "rate", "profiles"
        # @param folder [String] of the profiles   @param rate [Integer] of its clock
        # @raise [Invalid]
        def initialize(rig, folder, rate)
          @id = rig["interface"] || USUAL
          data = PROFILE.check(read(rig, folder), @id)
          @name, @computers, @rate = data["name"], data["computers"], rate
          mode = data["modes"].select { |one| one["rate"] == rate }.max_by { |one| [one["outputs"], one["bits"]] }
          @outputs, @bits = mode ? mode.values_at("outputs", "bits") : [0, 24]
        end

        private

        def read(rig, folder)
          brought = rig.fetch("profiles", []).find { |profile| profile.is_a?(Hash) && profile["id"] == @id }
          brought || JSON.parse(File.read(File.join(folder, "#{File.basename(@id)}.json")))
        rescue Errno::ENOENT
          raise Invalid.new("There is no profile #{@id}.", where: "interface")
        end
      end
    end
  end
end
