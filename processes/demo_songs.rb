# frozen_string_literal: true

# Makes the demo's songs, once: demo_songs.rb HOME. It ends on its own.
require_relative "../loader"
Loomshuttle.load_parts(:core, :runtime)
require_relative "../demo/songs"

Process.setpriority(Process::PRIO_PROCESS, 0, 15)
Loomshuttle::Runtime::Files.private!
DemoSongs.write(File.join(ARGV.first, "songs"))
