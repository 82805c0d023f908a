# Sourced by the commands in bin: what every one of them needs before the project's own code can run.
# shellcheck shell=bash
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
export PATH="$PATH:/usr/sbin:/sbin" NEXT_TELEMETRY_DISABLED=1

need_node() {
  if ! command -v node >/dev/null || [ "$(node -p 'const [a, b] = process.versions.node.split("."); Number(a) * 100 + Number(b)')" -lt 2019 ]; then
    echo "Chillbank needs Node.js 20.19 or newer on the PATH." >&2
    exit 1
  fi
}

# need_debian PROGRAM=PACKAGE ...: installs what is missing as root, otherwise lists it.
need_debian() {
  local missing=() pair
  for pair in "$@"; do
    command -v "${pair%%=*}" >/dev/null || missing+=("${pair##*=}")
  done
  [ ${#missing[@]} -eq 0 ] && return 0
  mapfile -t missing < <(printf "%s\n" "${missing[@]}" | sort -u)
  if [ "$(id -u)" -ne 0 ] || ! command -v apt-get >/dev/null; then
    echo "Missing: ${missing[*]}. Install with: sudo apt-get install ${missing[*]}" >&2
    exit 1
  fi
  echo "Installing ${missing[*]} …" >&2
  local log=.local/apt.log
  mkdir -p .local
  if ! { apt-get update && DEBIAN_FRONTEND=noninteractive apt-get install -y --no-install-recommends "${missing[@]}"; } >"$log" 2>&1; then
    tail -20 "$log" >&2
    exit 1
  fi
}

# npm packages from the lock file, when it changed since they were installed.
need_packages() {
  local mark=node_modules/.chillbank-lock hash
  hash=$(cksum <package-lock.json)
  if [ ! -f "$mark" ] || [ "$(cat "$mark")" != "$hash" ]; then
    echo "Installing npm packages …" >&2
    npm ci --no-audit --no-fund --loglevel=error >&2
    echo "$hash" >"$mark"
  fi
}

# need_all PROGRAM=PACKAGE ...: the system's packages and the project's own, at the same time.
need_all() {
  need_packages &
  local packages=$!
  (need_debian "$@") || {
    wait "$packages"
    exit 1
  }
  wait "$packages"
}
