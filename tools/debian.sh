#!/bin/sh
# Install Debian packages that a target needs: tools/debian.sh PACKAGE...
set -eu
if [ "$(id -u)" = 0 ]; then run=""; elif command -v sudo >/dev/null; then run="sudo"; else
    echo "Please install with Debian's package manager, as root: $*" >&2
    exit 1
fi
export DEBIAN_FRONTEND=noninteractive
# The list of packages may be missing or old on a fresh machine.
$run apt-get update -qq
$run apt-get install -y -qq --no-install-recommends "$@" >/dev/null
