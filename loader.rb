# frozen_string_literal: true

require "zeitwerk"

# One product in parts that must not grow together. Each process loads only the parts it may know; naming any other
# part is then a NameError at once. The table is the dependency rule of docs/architecture.md.
module Loomshuttle
  ROOT = __dir__

  # part => namespace it fills (the core fills Loomshuttle itself)
  PARTS = { core: nil, runtime: :Runtime, recorder: :Recorder, stand_ins: :StandIns, porter: :Porter, store: :Store, web: :Web,
            command_line: :CommandLine, supervisor: :Supervisor }.freeze

  # Makes the constants of some parts loadable on first use.
  # @param parts [Array<Symbol>] keys of PARTS
  # @return [void]
  def self.load_parts(*parts)
    loader = Zeitwerk::Loader.new
    parts.each do |part|
      name = PARTS.fetch(part)
      namespace = name ? const_set(name, Module.new) : self
      loader.push_dir(File.join(ROOT, part.to_s), namespace: namespace)
    end
    loader.ignore(File.join(ROOT, "store", "migrations"))
    loader.setup
  end
end
