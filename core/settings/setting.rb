# frozen_string_literal: true

module Loomshuttle
  module Settings
    # Everything about one setting, declared once.
    #   field    its name in its item and in its path        kind     the values that it takes (ValueKind)
    #   blank    its value while nobody has set it, or a proc that takes the desk and the item's key
    #   words    for people, as in "preamp gain"             unit     behind a figure, or nil
    #   nothing  what a person calls it when there is none
    #   part     what it is saved and recalled with (PresetParts), or nil
    #   capture  when a change harms a capture under way: :always; :way, where a captured track's sound takes its way by this item; :to_take;
    #            or nil: never
    #   desk     the desk's address for it, with %s for the item's key, where one of its settings is this one; or nil
    #   on       which desks have that address: a proc that takes the desk and the item's key; nil: all
    Setting = Value.define(:field, :kind, :blank, :words, :unit, :nothing, :part, :capture, :desk, :on) do
      # @param desk [Rig::Desk]   @param key [Integer, String, nil] of the item
      # @return [Object] its initial value
      def blank_for(desk, key) = blank.is_a?(Proc) ? blank.call(desk, key) : blank

      # @param desk [Rig::Desk]   @param key [Integer, String, nil] of the item
      # @return [Boolean] whether the setting is sent to this desk
      def on_desk?(desk, key) = !self.desk.nil? && (on.nil? || on.call(desk, key))

      # @param item [Object] of its collection
      # @return [Object] the setting's JSON value in that item
      def plain(item) = kind.plain(item[field])
    end
  end
end
