# frozen_string_literal: true

# A desk with listeners, for tests of who hears what.
module HearingHelp
  # Fiddle and Click on an Alder 40: main at outputs 15 and 16, bus 1 for Ada at output 1, bus 2 for the drummer at output 2.
  # @param changed [Hash{String=>Object}] settings
  def self.show(changed = {})
    CoreHelp.set(CoreHelp.blank("alder-40"), {
      "channel/1/name" => "Fiddle", "channel/1/stage" => "desk/in/1", "channel/2/name" => "Click", "channel/2/stage" => "desk/in/2", "channel/2/main" => false,
      "bus/1/name" => "Ear Ada", "bus/2/name" => "Wedge drums", "output/1/source" => "desk/bus/1", "output/2/source" => "desk/bus/2",
      "output/15/source" => "desk/main/l", "output/16/source" => "desk/main/r", "outlet/aes-1/first" => 15,
      "listener/order" => [1, 2, 3], "listener/1/name" => "PA", "listener/1/kind" => "area", "listener/1/hears" => ["desk/output/15"],
      "listener/1/hears_right" => ["desk/output/16"], "listener/2/name" => "Ada", "listener/2/hears" => ["desk/output/1"],
      "listener/3/name" => "Drummer", "listener/3/hears" => ["desk/output/2"]
    }.merge(changed))
  end

  # @param mixed [Hash{String=>Object}] levels
  def self.survey(show, mixed = {}) = Loomshuttle::Hearing::Survey.of(show, MixHelp.values(show, mixed))

  # Settings of wish 1.
  def self.wish(kind, source, listener, decibels = nil)
    { "wish/order" => [1], "wish/1/kind" => kind, "wish/1/sources" => [source], "wish/1/listeners" => [listener] }.merge(decibels ? { "wish/1/db" => decibels } : {})
  end
end
