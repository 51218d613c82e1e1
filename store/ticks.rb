# frozen_string_literal: true

module Loomshuttle
  module Store
    # What people have ticked off of a show: sources that were heard, sockets that were plugged; with who and when. No
    # settings, so they make no version.
    class Ticks
      KINDS = %w[heard plugged].freeze

      # @param database [Sequel::Database]
      def initialize(database)
        @ticks = database[:ticks]
      end

      # @param show [Integer] its id
      # @return [Array<Hash>] :kind, :subject, :who, :at
      def all(show) = @ticks.where(show_id: show).order(:at).select(:kind, :subject, :who, :at).all

      # @param kind [String] one of KINDS  @param subject [String] a channel's number, or a socket's point
      # @param on [Boolean] whether to tick or to untick
      def set(show, kind, subject, on, who:)
        mine = { show_id: show, kind: kind, subject: subject }
        return @ticks.where(mine).delete unless on

        @ticks.insert_conflict(target: %i[show_id kind subject]).insert(**mine, who: who, at: Time.now)
      end

      # Removes all ticks of a kind.
      def clear(show, kind) = @ticks.where(show_id: show, kind: kind).delete
    end
  end
end
