#!/bin/sh
set -e
autoreconf --version >/dev/null 2>&1 || { echo "install autoconf"; exit 1; }
type libtoolize >/dev/null || exit 1
autoreconf -fi
