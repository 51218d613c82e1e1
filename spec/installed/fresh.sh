#!/usr/bin/env bash
# Runs a command of the README in a fresh root of Debian, as a newcomer would: spec/installed/fresh.sh SUITE demo|test root|user [FOLDER]
#   SUITE    bookworm (Debian 12) or trixie (Debian 13)
#   root     as root; user: as a user with sudo
#   FOLDER   where the root goes; a temporary one otherwise, which is deleted at the end
# It takes what is committed. To be run as root, with debootstrap installed. Debian's mirror is that of this machine, or $MIRROR. The settings of
# npm, Bundler and apt of this machine are handed on, since it may reach its registries by them only.
set -euo pipefail
suite=$1 what=$2 who=$3 root=${4:-$(mktemp -d)}
project=$(cd "$(dirname "${BASH_SOURCE[0]}")/../.." && pwd)
port=4140 # not the demo's own: one may run on this machine
mirror=${MIRROR:-$(grep -rhoE 'https?://[^ ]+/debian/?(\s|$)' /etc/apt/sources.list /etc/apt/sources.list.d 2>/dev/null | head -n 1 || true)}
mirror=${mirror%%[[:space:]]*}
[ "$(id -u)" = 0 ] || { echo "This needs root." >&2; exit 1; }

tidy() {
  for mounted in dev/pts dev/shm dev proc sys; do umount -l "$root/$mounted" 2>/dev/null || true; done
  [ $# -gt 0 ] || rm -rf --one-file-system "$root"
}
if [ -n "${4:-}" ]; then trap 'tidy keep' EXIT; else trap tidy EXIT; fi

# In a mount namespace of its own rather than by chroot, where the kernel allows no user namespaces, which some specs need for their disks.
inside() {
  unshare --mount --propagation private sh -c 'mount --rbind "$0" "$0" && cd "$0" && mkdir -p .before && pivot_root . .before && umount -l /.before && exec "$@"' "$root" \
    /usr/bin/env -i HOME=/root PATH=/usr/local/sbin:/usr/local/bin:/usr/sbin:/usr/bin:/sbin:/bin LANG=C.UTF-8 "$@"
}

tell() { echo "== $* (after $SECONDS s)"; }

if [ ! -e "$root/etc/debian_version" ]; then
  debootstrap --variant=minbase --include=ca-certificates,git,sudo "$suite" "$root" "$mirror" >"$root.log" 2>&1 || { tail "$root.log" >&2; exit 1; }
fi
for mounted in proc sys dev dev/pts dev/shm; do mount --rbind "/$mounted" "$root/$mounted"; done
cp /etc/resolv.conf "$root/etc/"
cp /etc/apt/apt.conf.d/*registry* "$root/etc/apt/apt.conf.d/" 2>/dev/null || true
printf '#!/bin/sh\nexit 101\n' >"$root/usr/sbin/policy-rc.d" # no services of packages in here
chmod +x "$root/usr/sbin/policy-rc.d"
home=/root
if [ "$who" = user ]; then
  home=/home/engineer
  inside id engineer >/dev/null 2>&1 || inside useradd --create-home --shell /bin/bash engineer
  echo 'engineer ALL=(ALL) NOPASSWD: ALL' >"$root/etc/sudoers.d/engineer"
fi
for settings in .npmrc .bundle .gemrc; do [ -e "$HOME/$settings" ] && cp -r "$HOME/$settings" "$root$home/"; done
if [ -n "${CURL_CA_BUNDLE:-}" ]; then # this machine's registries have certificates of its own
  cp "$CURL_CA_BUNDLE" "$root/usr/local/share/ca-certificates/here.crt"
  inside update-ca-certificates >/dev/null 2>&1
  echo 'cafile=/etc/ssl/certs/ca-certificates.crt' >>"$root$home/.npmrc"
fi
folder=$home/loomshuttle
rm -rf "$root$folder" && git clone -q "$project" "$root$folder"
[ "$who" = root ] || inside chown -R engineer: "$home"

as_who() { if [ "$who" = root ]; then inside "$@"; else inside sudo -H -u engineer "$@"; fi; }

answers() { (exec 3<>"/dev/tcp/127.0.0.1/$port") 2>/dev/null && grep -q '"ok":true' <<<"$(exec 3<>"/dev/tcp/127.0.0.1/$port"; printf 'GET /api/health HTTP/1.0\r\nHost: 127.0.0.1\r\n\r\n' >&3; cat <&3)"; }

start_demo() {
  as_who sh -c "cd $folder && exec bin/demo --port $port" > >(while IFS= read -r line; do echo "$SECONDS s: $line"; done >>"$root.demo.log") 2>&1 &
  local demo=$!
  until answers; do
    kill -0 $demo 2>/dev/null || { tail -n 30 "$root.demo.log" >&2; return 1; }
    sleep 1
  done
  tell "The demo answers"
  pkill -TERM -f "processes/demo.rb.*$port" || true
  wait $demo || true
}

SECONDS=0
rm -f "$root.demo.log"
case $what in
  demo)
    start_demo
    start_demo # the second start finds everything again
    ;;
  test) as_who sh -c "cd $folder && exec bin/test" ;;
  *) echo "demo or test?" >&2; exit 1 ;;
esac
tell "$suite, $what as $who: well"
