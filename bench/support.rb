# frozen_string_literal: true

require_relative "../loader"
require "json"
require "numo/narray"
require "socket"
require "tmpdir"

# What the benchmarks share. They print tables and judge nothing; docs/benchmarks.md holds one run.
module Bench
  module_function

  # @return [Float] processor seconds a process has used, on its own and in the kernel
  def processor_seconds(pid)
    fields = File.read("/proc/#{pid}/stat").split(") ").last.split
    (fields[11].to_i + fields[12].to_i) / 100.0
  end

  def now = Process.clock_gettime(Process::CLOCK_MONOTONIC)

  # @return [Float] the least milliseconds that a block took
  def milliseconds(times = 15)
    Array.new(times) do
      started = now
      yield
      (now - started) * 1000
    end.min
  end

  # @param rows [Array<Array>] the first is the head
  def table(rows)
    rows = rows.map { |row| row.map(&:to_s) }
    widths = rows.transpose.map { |column| column.map(&:length).max }
    lines = rows.map { |row| "| #{row.zip(widths).map { |cell, width| cell.ljust(width) }.join(' | ')} |" }
    puts lines.insert(1, "|#{widths.map { |width| '-' * (width + 2) }.join('|')}|")
  end

  # The machine and its present speed: a virtual machine gets less processor time in some minutes than in others.
  def machine
    model = File.read("/proc/cpuinfo")[/model name\s*: (.*)/, 1]
    memory = File.read("/proc/meminfo")[/MemTotal:\s*(\d+)/, 1].to_i / (1 << 20)
    puts "#{model}, #{`nproc`.strip} cores, #{memory} GiB; Ruby #{RUBY_VERSION}; #{File.read('/etc/os-release')[/PRETTY_NAME="(.*)"/, 1]}; " \
         "100,000 additions in #{milliseconds { 100_000.times { |n| n + 1 } }.round(1)} ms"
  end
end
