# frozen_string_literal: true

module Loomshuttle
  # Rules for a show, one in each file. A rule is a module with `findings(context)`.
  module Checks
    # What rules look at. levels: as they are planned; sockets: physical sockets of the rig, and the lanes that they reach; free_bytes: of the capture
    # disk, nil where nobody has measured.
    Context = Value.define(:show, :graph, :levels, :strands, :sockets, :free_bytes) do
      # @param show [Settings::Show]
      # @param free_bytes [Integer, nil]   @param before [Context, nil] for the previous version; reused if no signal path changed
      def self.of(show, free_bytes: nil, before: nil)
        return before.with(show: show, free_bytes: free_bytes) if before && Signal::SameWays.in?(before.show, show)

        graph = Signal.build(show)
        new(show: show, graph: graph, levels: Signal::Levels.planned(show), strands: Signal::Strands.of(show, graph), sockets: show.layout.connected, free_bytes: free_bytes)
      end
    end

    RIG = %i[ClockLeader RateDiffers LinkOverCapacity ChainOverlap BoxOffLink MissingSocket PhantomOnDigital CardMode].freeze
    CAPTURE = %i[PreampSetTwice ArmedWithoutSource SharedLane PreampOnCardFed NotAtPreamp StagePreampOnTake StereoLanes TrackNames ChannelWithoutSocket
                 DiskTime SlowMonitoring NotCaptured].freeze
    SOUNDCHECK = %i[ReturnLoop ForeignReturn ReturnUnfed OwnMixOnTracks LeftOnTake].freeze
    OUTPUTS = %i[MainNowhere MainSockets BusWithoutSocket GroupNowhere TwiceOnMain PairApart MonitorPostFader PersonalLanes PersonalPostFader ReturnTwice DelayGeometry
                 HearsNothing].freeze
    PLAYBACK = %i[RoleWithoutOutput PlaybackOutput PlaybackReturns CueSharesOutput].freeze
    # Those that ask how the desk is mixed: `heard(survey)`.
    HEARD = %i[BrokenWish CueAtAudience HearsNothing].freeze
    ALL = (RIG + CAPTURE + SOUNDCHECK + OUTPUTS + PLAYBACK).freeze

    # @param context [Context]
    # @return [Array<Finding>] blocking ones first, then in the order of ALL
    def self.run(context) = in_order(ALL.flat_map { |name| const_get(name).findings(context) })

    # Findings about who hears what; empty while the desk's levels are unknown.
    # @param survey [Hearing::Survey]   @param fixes [Boolean] whether to compute a fix for each
    # @return [Array<Finding>] in the order of HEARD
    def self.heard(survey, fixes: true) = survey.values.empty? ? [] : HEARD.flat_map { |name| const_get(name).heard(survey, fixes: fixes) }

    # @return [Array<Finding>] blocking ones first, otherwise in the given order
    def self.in_order(findings) = findings.sort_by.with_index { |finding, at| [finding.severity == Finding::BLOCKS ? 0 : 1, at] }

    # @return [Array<Finding>] as run, without the accepted ones
    def self.open(context) = run(context).reject { |finding| context.show.setup.accepted.key?(finding.id) }
  end
end
