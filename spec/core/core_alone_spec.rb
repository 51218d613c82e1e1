# frozen_string_literal: true

require "ripper"

RSpec.describe "The core alone" do
  it "loads whole in a process that has nothing else, and needs no web, database or socket" do
    script = <<~RUBY
      require "#{Loomshuttle::ROOT}/loader"
      Loomshuttle.load_parts(:core)
      Zeitwerk::Registry.loaders.each(&:eager_load)
      bad = %w[Sinatra Rack Puma Sequel PG Socket UDPSocket].select { |name| Object.const_defined?(name) }
      bad += %w[Recorder Player StandIns Store Web].select { |name| Loomshuttle.const_defined?(name) }
      puts bad.join(",")
    RUBY
    expect(IO.popen([RbConfig.ruby, "-e", script], err: %i[child out], &:read).strip).to eq("")
  end

  # The shelves are patterns for Zeitwerk, and a folder's name may hold what patterns are made of.
  it "loads from a folder of any name" do
    Dir.mktmpdir("a [b] {c,d} e*f?") do |folder|
      %w[core runtime store loader.rb boot.rb].each { |entry| FileUtils.cp_r(File.join(Loomshuttle::ROOT, entry), folder) }
      script = "require './loader'; Loomshuttle.load_parts(:core, :runtime, :store); Zeitwerk::Registry.loaders.each(&:eager_load); puts Loomshuttle::Checks::DiskTime"
      expect(IO.popen([RbConfig.ruby, "-e", script, { chdir: folder, err: %i[child out] }], &:read)).to end_with("Loomshuttle::Checks::DiskTime\n")
    end
  end

  # What a process has loaded once all that it may load is loaded: another part, or a closed room of the core, is not even there to be named.
  Loomshuttle::ROOMS.each do |part, rooms|
    it "lets a process of #{part} load #{rooms.join(', ')} of the core, and no other part" do
      namespaces = Dir.children(File.join(Loomshuttle::ROOT, "core")).reject { |entry| entry.end_with?(".rb") }.to_h { |room| [room.split("_").map(&:capitalize).join, room] }
      script = <<~RUBY
        require "#{Loomshuttle::ROOT}/loader"
        Loomshuttle.load_parts(:core, :runtime, :#{part})
        Zeitwerk::Registry.loaders.each(&:eager_load)
        puts (#{namespaces.keys} + %w[Recorder Player StandIns Porter Store Web Supervisor CommandLine]).select { |name| Loomshuttle.const_defined?(name, false) }
      RUBY
      loaded = IO.popen([RbConfig.ruby, "-e", script], err: %i[child out], &:read).split
      expect(loaded.map { |name| namespaces.fetch(name, name) }).to match_array(rooms + [Loomshuttle::PARTS.fetch(part).to_s])
    end
  end

  # What code names of others: constants alone or behind Loomshuttle, also inside interpolated strings; not those it defines.
  # @param others [Hash{Symbol=>String}] folder => namespace
  # @return [Hash{Symbol=>Array<String>}] files by what they name
  def named_in(files, others)
    files.each_with_object({}) do |file, found|
      names = constants(File.read(file))
      others.each { |folder, name| (found[folder] ||= []) << file if names.include?(name) }
    end
  end

  # @return [Array<String>] constants that are looked up from the top
  def constants(code)
    tokens = Ripper.lex(code).reject { |token| %i[on_sp on_nl on_ignored_nl on_comment].include?(token[1]) }.map { |token| token[1, 2] }
    tokens.each_index.filter_map do |at|
      kind, name = tokens[at]
      before, owner = tokens[at - 1], tokens[at - 2]
      next unless kind == :on_const && at.positive? && !(before[0] == :on_kw && %w[class module].include?(before[1]))

      name if before != [:on_op, "::"] || owner == [:on_const, "Loomshuttle"]
    end
  end

  def camel(folder) = folder.to_s.split("_").map(&:capitalize).join
  def ruby_files(*folder) = Dir[File.join(Loomshuttle::ROOT, *folder, "**", "*.rb")]

  # A part's own classes may be called like another part, such as the recorder's Player.
  Loomshuttle::MAY_USE.each do |part, allowed|
    it "keeps #{part} from naming any part but #{[part, *allowed].join(', ')}" do
      files = ruby_files(part.to_s)
      strangers = Loomshuttle::PARTS.compact.except(part, *allowed).reject { |_, name| files.any? { |file| File.read(file).match?(/^ *(class #{name}\b|#{name} = )/) } }
      expect(named_in(files, strangers)).to eq({})
    end
  end

  Loomshuttle::CORE_MAY_USE.each do |room, allowed|
    it "keeps the core's room #{room} from naming any room but #{[room, *allowed].join(', ')}" do
      strangers = (Loomshuttle::CORE_MAY_USE.keys - [room, *allowed]).to_h { |folder| [folder, camel(folder)] }
      expect(named_in(ruby_files("core", room.to_s) + [File.join(Loomshuttle::ROOT, "core", "#{room}.rb")].select { |file| File.exist?(file) }, strangers)).to eq({})
    end
  end

  it "lets no two rooms of the core use each other, also not by way of a third one" do
    reached = ->(room, seen = []) { Loomshuttle::CORE_MAY_USE[room].reduce(seen) { |all, other| all.include?(other) ? all : reached.call(other, all + [other]) } }
    expect(Loomshuttle::CORE_MAY_USE.keys.select { |room| reached.call(room).include?(room) }).to eq([])
    expect(Loomshuttle::CORE_MAY_USE.keys.map(&:to_s)).to match_array(Dir.children(File.join(Loomshuttle::ROOT, "core")).reject { |entry| entry.end_with?(".rb") })
  end

  it "is drawn in the documents as it is" do
    rows = File.read(File.join(Loomshuttle::ROOT, "docs", "architecture.md")).scan(%r{^\| `([\w/]+)/` \| .*? \|([^|]*)\|$}).to_h { |folder, uses| [folder, uses.scan(/\w+/).map(&:to_sym)] }
    parts = Loomshuttle::MAY_USE.transform_keys(&:to_s)
    rooms = Loomshuttle::CORE_MAY_USE.transform_keys { |room| "core/#{room}" }
    expect(rows.slice(*parts.keys, *rooms.keys).transform_values(&:sort)).to eq(parts.merge(rooms).transform_values(&:sort))
  end
end
