# What bin/demo and bin/test install, each step only when something is missing. Sourced, from the project's folder, with pipefail; what
# goes wrong is said here, so that nothing ends without a word where the caller ends at any error.

BUILD_PACKAGES="ruby ruby-dev bundler build-essential pkg-config libpq-dev libxml2-dev libxslt1-dev libyaml-dev zlib1g-dev"
RUN_PACKAGES="postgresql fonts-dejavu-core ffmpeg alsa-utils aubio-tools espeak-ng rubberband-cli"
TEST_PACKAGES="chromium chromium-driver sndfile-programs sox mediainfo midicsv libltc11 unzip liblo-tools gstreamer1.0-tools gstreamer1.0-plugins-base gstreamer1.0-plugins-good poppler-utils"
NODE_LEAST=20.19.0
NODE_WANTED=22

fail() { echo "$*" >&2; exit 1; }
tell() { echo "== $*"; }

as_root() {
  if [ "$(id -u)" = 0 ]; then "$@"
  elif command -v sudo >/dev/null; then sudo "$@"
  else fail "These need to be installed by root, and there is no sudo here: $*"; fi
}

missing_packages() {
  local there package
  there=$(dpkg-query -W -f='${Package} ${Status}\n' "$@" 2>/dev/null | sed -n 's/ .*ok installed$//p')
  for package in "$@"; do
    grep -qxF "$package" <<<"$there" || echo "$package"
  done
}

# Those that are missing, as far as they are known to be.
install_packages() {
  [ $# = 0 ] && return
  tell "Debian packages: $*"
  [ -n "${lists_are_new:-}" ] || as_root apt-get update -qq || fail "apt-get update failed; see above. These packages are missing: $*"
  lists_are_new=yes
  as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "$@" >/dev/null ||
    fail "Debian packages could not be installed; see above. Missing: $*"
}

node_is_new_enough() {
  command -v node >/dev/null && command -v npm >/dev/null &&
    [ "$(printf '%s\n' "$NODE_LEAST" "$(node --version | tr -d v)" | sort -V | head -n 1)" = "$NODE_LEAST" ]
}

# Debian 12's Node is too old for the build tools; the npm registry carries newer ones as packages.
install_node() {
  local tools="$PWD/vendor/node" machine
  node_is_new_enough && return
  command -v npm >/dev/null || install_packages nodejs npm
  node_is_new_enough && return
  case $(uname -m) in x86_64) machine=x64 ;; aarch64) machine=arm64 ;; *) fail "There is no Node for $(uname -m); install Node $NODE_LEAST or newer." ;; esac
  tell "Node $NODE_WANTED (into vendor/node)"
  npm install --silent --no-audit --no-fund --prefix "$tools" "node-linux-$machine@$NODE_WANTED" "npm@10" ||
    fail "Node $NODE_LEAST or newer could not be installed; see above."
  mkdir -p "$tools/bin"
  ln -sf "../node_modules/node-linux-$machine/bin/node" "$tools/bin/node"
  ln -sf "../node_modules/npm/bin/npm-cli.js" "$tools/bin/npm"
  ln -sf "../node_modules/npm/bin/npx-cli.js" "$tools/bin/npx"
}

# Gems with native extensions can be built only in a path of plain letters: make splits others at their spaces. Where this folder has
# another one, the gems go to a plain place, and vendor/bundle leads there.
place_for_gems() {
  case $PWD in *[!A-Za-z0-9/._+-]*) ;; *) return 0 ;; esac
  local place
  if [ "$(id -u)" = 0 ]; then place=/var/lib/loomshuttle/gems
  else place="${XDG_DATA_HOME:-$HOME/.local/share}/loomshuttle/gems"; fi
  case $place in *[!A-Za-z0-9/._+-]*) place=/var/tmp/loomshuttle-$(id -u)/gems ;; esac
  mkdir -p "$place" 2>/dev/null && chmod go-w "$(dirname "$place")" "$place" 2>/dev/null && [ -O "$(dirname "$place")" ] && [ -O "$place" ] ||
    fail "The Ruby gems cannot be built in $PWD, whose name has spaces or accents, nor in $place, which cannot be written. Move this folder."
  if [ -d vendor/bundle ] && [ ! -L vendor/bundle ]; then rm -rf vendor/bundle; fi
  ln -sfn "$place" vendor/bundle
  export BUNDLE_PATH="$place"
}

# To run, no gem that only the tests need. Building some takes minutes; it is told how far that is.
install_gems() {
  [ "$1" = test ] || export BUNDLE_WITHOUT=test
  gems_known "$1" && return
  bundle check >/dev/null 2>&1 && { gems_there "$1"; return; }
  local log=vendor/bundle-install.log
  mkdir -p vendor
  place_for_gems
  tell "Ruby gems (into ${BUNDLE_PATH:-vendor/bundle}); those with native extensions are built, which takes a few minutes"
  # Behind what goes on beside it, which uses one processor at a time and would end last.
  MAKEFLAGS="-j$(nproc)" nice -n 10 bundle install --jobs "$(nproc)" 2>&1 | tee "$log" | tell_gems || { tail -n 40 "$log" >&2; fail "Ruby gems could not be installed; see above, and $log."; }
  gems_there "$1"
}

# Bundler takes half a second to look. Its answer holds while the lists, Ruby and the gems stay the same. What is there for tests
# serves to run, too.
gems_state() {
  { cat Gemfile Gemfile.lock; ruby --version; find -L vendor/bundle -maxdepth 4 -name '*.gemspec' | sort; } 2>/dev/null | sha256sum | cut -d' ' -f1
}

gems_known() {
  local known state
  known=$(cat vendor/bundle/.checked 2>/dev/null) || return 1
  state=$(gems_state)
  [ "$known" = "$state test" ] || [ "$known" = "$state $1" ]
}

gems_there() {
  [ ! -d vendor/bundle ] || echo "$(gems_state) $1" >vendor/bundle/.checked
}

# Counts what bundler tells of.
tell_gems() {
  local line done=0
  while IFS= read -r line; do
    case $line in
      Installing*) done=$((done + 1)); echo "   gem $done: ${line#Installing }" ;;
    esac
  done
}

# What the interface is built with; to test it, more. What is there for tests serves to run, too.
install_npm() {
  local wanted there
  wanted=$(sha256sum ui/package-lock.json | cut -d' ' -f1)
  there=$(cat ui/node_modules/.installed-from 2>/dev/null || true)
  [ "$there" = "$wanted test" ] || { [ "$1" = run ] && [ "$there" = "$wanted run" ]; } && return
  tell "npm packages (into ui/node_modules)"
  local omit=()
  [ "$1" = test ] || omit=(--omit=dev)
  (cd ui && npm ci --silent --no-audit --no-fund "${omit[@]}") || fail "npm packages could not be installed; see above."
  echo "$wanted $1" >ui/node_modules/.installed-from
}

# The C file that reads packets. Everything works without it, only slower. It is built elsewhere: make splits paths at their spaces.
build_packets() {
  local place state work built
  state=$({ cat ext/packets/*; ruby --version; } | sha256sum | cut -d' ' -f1)
  for built in $(grep -lxs "$state" vendor/ext/*/.built-from); do
    [ -f "$(dirname "$built")/packets.so" ] && return
  done
  place=vendor/ext/$(ruby -e 'puts "#{RUBY_PLATFORM}-#{RbConfig::CONFIG["ruby_version"]}"')
  tell "Building the packet reader (ext/packets)"
  work=$(mktemp -d)
  mkdir -p "$place"
  cp ext/packets/* "$work/"
  if (cd "$work" && ruby extconf.rb && make) >"$place/build.log" 2>&1 && mv "$work/packets.so" "$place/packets.so"; then
    echo "$state" >"$place/.built-from"
  else
    rm -f "$place/packets.so" "$place/.built-from" || true
    echo "It could not be built, so packets are read in Ruby, which takes more of the processor; see $place/build.log." >&2
  fi
  rm -rf "$work"
}

# What gems are built with comes first: that takes longest. Everything else is fetched and installed beside it.
install_all() {
  command -v dpkg-query >/dev/null || fail "This needs Debian: dpkg-query is missing."
  PATH="$PWD/vendor/node/bin:$PATH"
  local wanted="$BUILD_PACKAGES $RUN_PACKAGES" package first=() later=() rest
  [ "$1" = test ] && wanted="$wanted $TEST_PACKAGES"
  # shellcheck disable=SC2086
  for package in $(missing_packages $wanted); do
    case " $BUILD_PACKAGES " in *" $package "*) first+=("$package") ;; *) later+=("$package") ;; esac
  done
  install_packages "${first[@]}"
  { [ ${#later[@]} = 0 ] && command -v npm >/dev/null; } || as_root true # a password is asked for before anything goes on beside it
  install_rest "$1" "${later[@]}" &
  rest=$!
  install_gems "$1"
  build_packets
  wait $rest || exit 1
  hash -r
}

# Debian's packages one after the other, since only one can be at work.
install_rest() {
  local kind=$1 npm
  shift
  install_node
  install_npm "$kind" &
  npm=$!
  install_packages "$@"
  wait $npm || exit 1
}

# Everything that the built interface is made from.
interface_state() {
  find ui web/openapi.json -type f -not -path '*/node_modules/*' -not -path '*/dist/*' -not -name '*.tsbuildinfo' -not -name schema.d.ts -print0 |
    sort -z | xargs -0 sha256sum | sha256sum | cut -d' ' -f1
}

build_interface() {
  local state
  state=$(interface_state)
  [ "$(cat ui/dist/.built-from 2>/dev/null)" = "$state" ] && return
  tell "Building the interface"
  (cd ui && npm run --silent build) || fail "The interface could not be built; see above."
  echo "$state" >ui/dist/.built-from
}
