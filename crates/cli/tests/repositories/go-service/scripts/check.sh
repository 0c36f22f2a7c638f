#!/bin/sh
# which cmake
for tool in jq curl; do
  command -v "$tool" >/dev/null || exit 1
done
if ! command -v shellcheck >/dev/null 2>&1; then
  echo "no shellcheck"; exit 1
fi
which hadolint || true
