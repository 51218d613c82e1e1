# frozen_string_literal: true

require "fileutils"

# Keeps what Ruby made of the sources, and where it found them, below vendor/, so that each process starts sooner. Each user of the
# machine has his own; where nothing can be written, all is read again.
begin
  kept = File.join(__dir__, "vendor", "compiled", Process.uid.to_s)
  FileUtils.mkdir_p(kept, mode: 0o700)
  if File.writable?(kept)
    require "bootsnap"
    Bootsnap.setup(cache_dir: kept, development_mode: true, compile_cache_yaml: false)
  end
rescue LoadError, SystemCallError => e
  warn "Starting slowly: #{e.message}"
end
