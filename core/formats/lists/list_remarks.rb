# frozen_string_literal: true

module Loomshuttle
  module Formats
    # What was not understood in an input list or cannot be had, in groups of one kind, the most harmful first.
    module ListRemarks
      # One remark. where: the row in the file, in words; group: the heading of its group.
      Remark = Value.define(:where, :message, :group)

      # kind => heading of a single row, and of several; in order of harm.
      KINDS = {
        no_room: ["1 row does not fit on the desk", "%d rows do not fit on the desk"],
        no_name: ["1 row has no name", "%d rows have no name"],
        halves: ["1 stereo row names sockets that are not neighbours", "%d stereo rows name sockets that are not neighbours"],
        socket: ["1 row asks for a socket that this rig does not have", "%d rows ask for sockets that this rig does not have"],
        taken: ["1 row gets another socket or channel than it asks for", "%d rows get other sockets or channels than they ask for"],
        apart: ["1 pair cannot be paired", "%d pairs cannot be paired"],
        number: ["1 channel number is not understood", "%d channel numbers are not understood"],
        shared: ["1 row shares a socket with another", "%d rows share a socket with another"],
        value: ["1 cell is not understood", "%d cells are not understood"],
        cut: ["1 text is too long", "%d texts are too long"],
        crossed_out: ["1 row is crossed out", "%d rows are crossed out"],
        column: ["1 column is not used", "%d columns are not used"],
        title: ["1 row is a title or a note", "%d rows are titles or notes"]
      }.freeze

      # @param problems [Array<InputList::Problem>]
      # @return [Array<Remark>] by harm, and by row within a group
      def self.of(problems)
        KINDS.flat_map do |kind, (one, many)|
          found = problems.select { |problem| problem.kind == kind }.sort_by.with_index { |problem, at| [problem.line, at] }
          heading = found.size == 1 ? one : format(many, found.size)
          found.map { |problem| Remark.new(where: "line #{problem.line}", message: problem.message, group: heading) }
        end
      end
    end
  end
end
