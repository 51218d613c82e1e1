# frozen_string_literal: true

module Loomshuttle
  module Recorder
    # Whether the folder for second copies can be relied on: it exists, on a mounted disk, and is writable. It is only created on another disk, so
    # that an unplugged stick never fills the system disk instead.
    module SecondCopy
      # Where systems mount disks.
      MOUNTS = %w[/media /mnt /run/media].freeze

      # What was found: problem (nil where a copy can be written) and note, in words.
      Found = Value.define(:problem, :note)

      class << self
        # @param folder [String] for second copies   @param takes [String] folder of all takes
        # @param fstab [String] the system's list of disks   @param mounts [Array<String>]
        # @return [Found]
        def look(folder, takes, fstab: "/etc/fstab", mounts: MOUNTS)
          problem = missing(folder, takes) || not_mounted(folder, fstab, mounts) || ("The folder #{folder} cannot be written to." unless File.writable?(folder))
          Found.new(problem: problem, note: (same_disk(folder) if problem.nil? && File.stat(folder).dev == File.stat(takes).dev))
        rescue SystemCallError => e
          Found.new(problem: "The folder #{folder} cannot be used: #{e.message}.", note: nil)
        end

        # @raise [Invalid] if the folder is not writable
        def check(folder, takes)
          problem = look(folder, takes).problem
          raise Invalid.new(problem, where: "mirror") if problem
        end

        private

        def same_disk(folder) = "Second copies in #{folder} are on the same disk as the takes: they do not protect from its failure."

        def missing(folder, takes)
          return if File.directory?(folder)
          return "#{folder} is not a folder." if File.exist?(folder)

          above = File.dirname(folder)
          return "The folder #{folder} does not exist. Plug in its disk, or create the folder." unless File.directory?(above) && File.stat(above).dev != File.stat(takes).dev

          Dir.mkdir(folder)
          nil
        end

        # A folder that a disk should be mounted on, and none is.
        def not_mounted(folder, fstab, mounts)
          point = mount_points(fstab).select { |one| within?(folder, one) }.max_by(&:size)
          return "The disk of #{folder} is not mounted: #{point} is empty." if point && !mounted?(point)

          above = mounts.find { |one| within?(folder, one) && one != folder } or return
          "The disk of #{folder} is not mounted; the folder lies on the system disk." if File.stat(folder).dev == File.stat("/").dev && File.stat(above).dev == File.stat("/").dev
        end

        def within?(folder, point) = folder == point || folder.start_with?("#{point.chomp('/')}/")
        def mounted?(point) = point == "/" || File.stat(point).dev != File.stat(File.dirname(point)).dev

        # Spaces are written \040 there (fstab(5)).
        def mount_points(fstab)
          File.readlines(fstab).filter_map { |line| line.split[1]&.gsub("\\040", " ") unless line.start_with?("#") }.select { |point| point.start_with?("/") && point != "/" }
        rescue SystemCallError
          []
        end
      end
    end
  end
end
