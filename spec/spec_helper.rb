# frozen_string_literal: true

require "fileutils"
require "json"
require "numo/narray"
require "tmpdir"
require_relative "../loader"

# spec/core runs with nothing but the core loaded; the other folders name the parts they test in their own helpers.
only_core = RSpec.configuration.files_to_run.all? { |file| file.include?("/spec/core/") }
Loomshuttle.load_parts(*(only_core ? [:core] : Loomshuttle::PARTS.keys))
Dir[File.join(__dir__, "support", only_core ? "core" : "*", "*.rb")].each { |file| require file }

# As in the processes that read packets.
Loomshuttle::Runtime::Native.packets unless only_core

# Of what is told into the log only what surprised is shown.
Loomshuttle::Runtime::Log.now.level = :warn unless only_core

RSpec.configure do |config|
  config.disable_monkey_patching!
  config.order = :random
  config.expect_with(:rspec) { |expectations| expectations.include_chain_clauses_in_custom_matcher_descriptions = true }
  config.mock_with(:rspec) { |mocks| mocks.verify_partial_doubles = true }
  # What a part sets for its process (where temporary files go, for one) is set for none of the other examples.
  config.around do |example|
    before = ENV.to_h
    example.run
  ensure
    ENV.replace(before)
  end
  config.around(:example, :folder) { |example| Dir.mktmpdir { |dir| (@folder = dir) && example.run } }
end
