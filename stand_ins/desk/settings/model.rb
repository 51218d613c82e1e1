# frozen_string_literal: true

require "json"

module Loomshuttle
  module StandIns
    module Desk
      # What this desk has, and which boxes hang on its ports: read from a rig file and the profiles it names, in the desk's
      # own words ("in/3", "a/17" for a lane of port a, "ch/17/l", "card/5"), for a stand-in shares no routing code with
      # the application.
      class Model
        attr_reader :profile, :name, :rate, :channels, :lanes, :buses, :matrices, :mains, :taps, :sends, :returns, :packet, :modes, :rates,
                    :sockets, :boxes, :input_names, :outlets, :mix_outputs, :stage_block, :free_slots, :take_block, :flip, :ports, :mix, :cables

        # trim_range: nil where it has none
        Channel = Value.define(:number, :width, :first_lane, :gain_range, :gain_step, :trim_range, :trim_step)
        # A box on a port: place 1 is nearest to the desk; first_socket: its place in `sockets`.
        Box = Value.define(:port, :place, :kind, :inputs, :outputs, :first_socket, :in_offset, :out_offset, :delay)
        # Sockets or link lanes that outputs are fed to, in blocks.
        Outlets = Value.define(:id, :count, :block)

        LINK_LANES = 48

        # @param rig [Hash] "desk": id of a profile; "boxes": list of "profile", "port", "input_offset", "output_offset", in
        #   the order of their chains; "rate"; "profiles": those that the folder does not have;
        #   "cables": output of the playback interface => socket
        # @param folder [String] of the profiles
        # @raise [Invalid] if it is not a valid rig
        def initialize(rig, folder)
          rig = RigFile.check(rig)
          @brought = rig.fetch("profiles", []).to_h { |profile| [profile["id"], profile] }
          data = read(folder, rig.fetch("desk"))
          @profile, @name, @taps, @buses, @mains, @rates = data.values_at("id", "name", "taps", "buses", "mains", "rates")
          @rate = rig.fetch("rate") { @rates.first }
          raise Invalid.new("#{@name} runs at #{@rates.join(' or ')}, not at #{@rate}.", where: "rate") unless @rates.include?(@rate)

          @matrices = data.fetch("matrices", 0)
          @ports = data.fetch("ports", [])
          @sends, @returns, @packet = data["card"].values_at("sends", "returns", "packet")
          @modes = data["card"]["modes"].to_h { |mode| [mode["id"], mode["lanes"]] }
          @channels = read_channels(data["channels"])
          @lanes = @channels.sum(&:width)
          @mix = Abilities.read(data, @taps, @rate)
          read_patching(data)
          read_sockets(data)
          @boxes = hang(rig.fetch("boxes", []), folder)
          @cables = rig.fetch("cables", {})
        end

        # @return [Integer, nil] lane of "ch/7" or "ch/17/r" in the mixer
        def lane(base)
          _, number, side = base.split("/")
          channel = @channels[number.to_i - 1]
          return nil unless number.to_i.positive? && channel && (channel.width == 2) == !side.nil?

          channel.first_lane + (side == "r" ? 1 : 0)
        end

        # @return [Array<Integer>] channel numbers of a block
        def block(size, number) = ((((number - 1) * size) + 1)..[number * size, @channels.size].min).to_a

        # @return [String, nil] the name that many places after another of its kind
        def behind(name, places)
          kind, number = name.split("/")
          found = "#{kind}/#{number.to_i + places}"
          found if @input_names.include?(found)
        end

        private

        # @raise [Invalid] if there is no such profile of that kind
        def read(folder, id, shape = RigFile::DESK)
          data = @brought.fetch(id) { JSON.parse(File.read(File.join(folder, "#{File.basename(id)}.json"))) }
          shape.check(data, id)
        rescue Errno::ENOENT
          raise Invalid.new("There is no profile #{id}.", where: id)
        end

        def read_channels(groups)
          lane = 0
          groups.flat_map { |group| [group] * group["count"] }.map.with_index(1) do |group, number|
            preamp, trim = group.values_at("preamp", "trim")
            channel = Channel.new(number: number, width: group["width"], first_lane: lane,
                                  gain_range: preamp["min_db"]..preamp["max_db"], gain_step: preamp["step_db"],
                                  trim_range: trim && (trim["min_db"]..trim["max_db"]), trim_step: trim && trim["step_db"])
            lane += group["width"]
            channel
          end
        end

        def read_patching(data)
          patching = data.fetch("patching", {})
          @stage_block, @free_slots, @take_block = [["stage_block", 1], ["free_slots", 0], ["take_block", 1]].map { |key, usual| patching.fetch(key, usual) }
          @flip = data["flip"]
          own = data["outputs"].map { |group| Outlets.new(id: group["prefix"], count: group["count"], block: group.fetch("block", 1)) }
          @mix_outputs = data.fetch("mix_outputs") { own.sum(&:count) }
          @outlets = own + @ports.map { |port| Outlets.new(id: port, count: LINK_LANES, block: patching.fetch("port_block", 1)) }
        end

        # Sockets that are there, and all names that the patch knows.
        def read_sockets(data)
          @sockets = data["inputs"].flat_map { |group| (1..group["count"]).map { |n| "#{group['prefix']}/#{n}" } }
          named = data["inputs"].flat_map { |group| (1..group.fetch("names", group["count"])).map { |n| "#{group['prefix']}/#{n}" } }
          names = named + @ports.flat_map { |port| (1..LINK_LANES).map { |n| "#{port}/#{n}" } } + (1..@returns).map { |n| "card/#{n}" }
          @input_names = names.to_h { |name| [name, true] }
        end

        # Sockets of a box are called after port, place and number: "a.1/3".
        def hang(boxes, folder)
          places = Hash.new(0)
          boxes.map do |box|
            kind = read(folder, box["profile"], RigFile::BOX)
            port = box.fetch("port")
            raise Invalid.new("#{@name} has no port #{port}.", where: "boxes") unless @ports.include?(port)

            first = @sockets.size
            place = places[port] += 1
            @sockets += (1..kind["inputs"]).map { |n| "#{port}.#{place}/#{n}" }
            Box.new(port: port, place: place, kind: box["profile"], inputs: kind["inputs"], outputs: kind["outputs"], first_socket: first,
                    in_offset: box.fetch("input_offset", 0), out_offset: box.fetch("output_offset", 0), delay: kind.fetch("delay", 0))
          end
        end
      end
    end
  end
end
