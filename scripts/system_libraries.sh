#!/usr/bin/env bash
# Makes sure of what Debian must provide: as root it is installed, otherwise the packages are named.
# Usage: system_libraries.sh [--browser]
set -euo pipefail

missing=()
library() { ldconfig -p | grep -q "$1" || missing+=("$2"); }
library libEGL.so.1 libegl1
library libGL.so.1 libgl1
library libexpat.so.1 libexpat1
if [ "${1:-}" = --browser ] && [ ! -x /usr/bin/chromium-headless-shell ]; then
  missing+=(chromium-headless-shell)
fi
if [ "${1:-}" = --browser ] && ! command -v cc >/dev/null; then
  missing+=(gcc libc6-dev)
fi
for tool in python3 node npm; do
  command -v "$tool" >/dev/null || { echo "Mortiser needs $tool (Python 3.11, Node 20)." >&2; exit 1; }
done
[ ${#missing[@]} -eq 0 ] && exit 0
if [ "$(id -u)" -ne 0 ] || ! command -v apt-get >/dev/null; then
  echo "Mortiser needs these Debian packages: ${missing[*]}" >&2
  echo "Install them with: sudo apt-get install ${missing[*]}" >&2
  exit 1
fi
echo "Installing ${missing[*]} …"
apt-get update -qq
DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
