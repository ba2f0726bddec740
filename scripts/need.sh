#!/usr/bin/env bash
# Sees that what is named is there, and installs what can be installed.
# Usage: scripts/need.sh go|node|references|browser ...
set -eu

missing() {
  echo "Missing: $1" >&2
  exit 1
}

# apt installs Debian packages, refreshing the lists once.
apt() {
  command -v apt-get >/dev/null || missing "apt-get, to install: $*. Install these by hand, or use a Debian system."
  local sudo=
  if [ "$(id -u)" != 0 ]; then
    command -v sudo >/dev/null || missing "root or sudo, to install: $*"
    sudo=sudo
  fi
  echo "Installing: $*"
  export DEBIAN_FRONTEND=noninteractive
  $sudo apt-get update -qq
  $sudo apt-get install -y -qq --no-install-recommends "$@" >/dev/null
}

for need in "$@"; do
  case $need in
    go) command -v go >/dev/null || missing "Go 1.26 or newer (the command go)" ;;
    node)
      command -v node >/dev/null || missing "Node 20 or newer (the command node)"
      command -v npm >/dev/null || missing "npm, which comes with Node"
      [ "$(node -p 'process.versions.node.split(".")[0]')" -ge 20 ] || missing "Node 20 or newer; this is $(node --version)"
      ;;
    references) # independent programs that tests compare with
      command -v ngspice >/dev/null || apt ngspice
      command -v units >/dev/null || apt units
      command -v pdftotext >/dev/null || apt poppler-utils
      command -v qpdf >/dev/null || apt qpdf
      ;;
    cc) command -v cc >/dev/null || apt gcc libc6-dev ;; # for the race detector
    browser) command -v chromium >/dev/null || apt chromium ;;
    *) missing "a rule for \"$need\" in $0" ;;
  esac
done
