#!/usr/bin/env bash
# Installs what is missing on a Debian 12 machine with Rust and Node.js: `setup.sh build` for building, `setup.sh test`
# for the tests too (Chromium and its driver). Skips what is there.
set -euo pipefail
cd "$(dirname "$0")/.."

say() { echo "== $*"; }

debian() {
  local missing=()
  for package in "$@"; do
    dpkg-query -W -f '${Status}' "$package" 2>/dev/null | grep -q 'ok installed' || missing+=("$package")
  done
  [ ${#missing[@]} -eq 0 ] && return
  say "installing Debian packages: ${missing[*]}"
  local as_root=()
  [ "$(id -u)" -eq 0 ] || as_root=(sudo)
  "${as_root[@]}" apt-get update -qq
  DEBIAN_FRONTEND=noninteractive "${as_root[@]}" apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
}

need() {
  command -v "$1" >/dev/null || { echo "Kachel needs $2. Install it first." >&2; exit 1; }
}

need cargo "Rust 1.95 (https://rustup.rs)"
need node "Node.js 20.19 or newer"
command -v cc >/dev/null || debian gcc libc6-dev
[ "${1:-build}" = test ] && { command -v chromium >/dev/null && command -v chromedriver >/dev/null || debian chromium chromium-driver; }

# The 3MF Consortium's library comes from PyPI into a virtual environment under target/.
[ "${1:-build}" = test ] && { python3 -c 'import venv, ensurepip' 2>/dev/null || debian python3-venv; }

stamp=web/node_modules/.kachel-stamp
if ! cmp -s web/package-lock.json "$stamp"; then
  say "installing front-end packages"
  # npm 10 cannot resolve the native parts of the bundler.
  if [ "$(npm --version | cut -d. -f1)" -ge 11 ]; then npm --prefix web ci --silent
  else (cd web && npx --yes npm@11 ci --silent); fi
  cp web/package-lock.json "$stamp"
fi
