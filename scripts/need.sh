#!/usr/bin/env bash
# Install Debian packages that a target needs, as root or through sudo.
set -eu
sudo=""
if [ "$(id -u)" -ne 0 ]; then
  sudo=$(command -v sudo) || { echo "Please install: $*" >&2; exit 1; }
fi
$sudo apt-get update -qq
DEBIAN_FRONTEND=noninteractive $sudo apt-get install -y -qq --no-install-recommends "$@" >/dev/null
