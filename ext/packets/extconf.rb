# frozen_string_literal: true

require "mkmf"

abort "recvmmsg is missing" unless have_func("recvmmsg", "sys/socket.h")
$CFLAGS << " -O2 -std=gnu11 -Wall -Wextra -Wno-unused-parameter #{ENV.fetch('PACKETS_CFLAGS', '')}" # rubocop:disable Style/GlobalVars -- mkmf's own
$LDFLAGS << " #{ENV.fetch('PACKETS_LDFLAGS', '')}" # rubocop:disable Style/GlobalVars
create_makefile("packets")
