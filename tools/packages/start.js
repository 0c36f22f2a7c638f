#!/usr/bin/env node
// Starts the program of this system, with the same words and the same terminal, and ends as it ended.
"use strict";
const { spawnSync } = require("node:child_process");
const { join } = require("node:path");

const name = process.platform === "win32" ? "setup-ready.exe" : "setup-ready";
const program = join(__dirname, "bin", `${process.platform}-${process.arch}`, name);
// The terminal sends its signals to both; this one waits for the other's end.
for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"]) process.on(signal, () => {});
const ended = spawnSync(program, process.argv.slice(2), { stdio: "inherit" });
if (ended.error) {
  const why = ended.error.code === "ENOENT" ? `this package has no program for ${process.platform} on ${process.arch}` : ended.error.message;
  console.error(`setup-ready: ${why}`);
  process.exit(4);
}
if (ended.signal) {
  for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"]) process.removeAllListeners(signal);
  process.kill(process.pid, ended.signal);
} else {
  process.exit(ended.status);
}
