# frozen_string_literal: true

# Makes the demo from inputs.csv: clean.json (a show without findings), show.json (the same with faults planted), rig.json (what
# the stand-in desk stands in) and desk.json (what it is set to, in step with show.json). Run after a change: ruby demo/make.rb
require_relative "../loader"

Loomshuttle.load_parts(:core, :runtime, :store, :web)
require_relative "demo_show"

DemoShow.make
