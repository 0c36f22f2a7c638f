#!/usr/bin/env python3
"""Packs the program for pip, npm and apt, with nothing but Python's own library. The same program makes the same files, to the byte.

Usage: make.py VERSION FOLDER linux=PROGRAM [windows=PROGRAM]"""
import base64
import gzip
import hashlib
import io
import json
import pathlib
import subprocess
import sys
import tarfile
import textwrap
import zipfile

ROOT = pathlib.Path(__file__).resolve().parents[2]
SUMMARY = "Is this machine ready to build the project? Checks that explain each failure."
LONG = (ROOT / "tools/packages/description.md").read_text(encoding="utf-8")
LICENSES = ["LICENSE-APACHE", "LICENSE-MIT"]
# 1980-01-01, the first day that a zip file knows (PKWARE's APPNOTE, 4.4.6).
DAY = 315532800
# Wheels: PEP 425 and 600. The program is linked with nothing, so any Linux does.
WHEEL_TAGS = {"linux": "manylinux2014_x86_64.musllinux_1_1_x86_64", "windows": "win_amd64"}
NODE_SYSTEMS = {"linux": "linux", "windows": "win32"}


def tar_bytes(files, prefix=""):
    """A gzip-compressed archive of {name: (bytes, mode)}, folders first."""
    raw = io.BytesIO()
    with tarfile.open(fileobj=raw, mode="w", format=tarfile.GNU_FORMAT) as tar:
        folders = sorted({str(above) for name in files for above in pathlib.PurePosixPath(name).parents if str(above) != "."})
        for folder in folders if prefix == "./" else []:
            entry = tarfile.TarInfo(f"{prefix}{folder}/")
            entry.type, entry.mode, entry.mtime = tarfile.DIRTYPE, 0o755, DAY
            entry.uname = entry.gname = "root"
            tar.addfile(entry)
        for name in sorted(files):
            content, mode = files[name]
            entry = tarfile.TarInfo(prefix + name)
            entry.size, entry.mode, entry.mtime = len(content), mode, DAY
            entry.uname = entry.gname = "root"
            tar.addfile(entry, io.BytesIO(content))
    return gzip.compress(raw.getvalue(), mtime=0)


def wheel(version, folder, system, program):
    """A wheel that puts the program itself among the scripts (PEP 427): no Python is started with it."""
    script = "setup-ready.exe" if system == "windows" else "setup-ready"
    tag = f"py3-none-{WHEEL_TAGS[system]}"
    info = f"setup_ready-{version}.dist-info"
    tags = "".join(f"Tag: py3-none-{one}\n" for one in WHEEL_TAGS[system].split("."))
    licenses = "".join(f"License-File: {name}\n" for name in LICENSES)
    files = {
        f"setup_ready-{version}.data/scripts/{script}": program.read_bytes(),
        f"{info}/METADATA": (
            f"Metadata-Version: 2.4\nName: setup-ready\nVersion: {version}\nSummary: {SUMMARY}\n"
            f"License-Expression: MIT OR Apache-2.0\n{licenses}Description-Content-Type: text/markdown\n\n{LONG}"
        ).encode(),
        f"{info}/WHEEL": f"Wheel-Version: 1.0\nGenerator: tools/packages/make.py\nRoot-Is-Purelib: false\n{tags}".encode(),
    }
    files |= {f"{info}/licenses/{name}": (ROOT / name).read_bytes() for name in LICENSES}
    digest = lambda content: base64.urlsafe_b64encode(hashlib.sha256(content).digest()).rstrip(b"=").decode()
    record = "".join(f"{name},sha256={digest(content)},{len(content)}\n" for name, content in files.items())
    files[f"{info}/RECORD"] = f"{record}{info}/RECORD,,\n".encode()
    with zipfile.ZipFile(folder / f"setup_ready-{version}-{tag}.whl", "w", zipfile.ZIP_DEFLATED) as made:
        for name, content in files.items():
            entry = zipfile.ZipInfo(name)
            entry.external_attr = (0o100755 if "/scripts/" in name else 0o100644) << 16
            entry.compress_type = zipfile.ZIP_DEFLATED
            made.writestr(entry, content)


def npm(version, folder, programs):
    """One package with the program of each system, and a script of a few lines that starts the right one."""
    about = {
        "name": "setup-ready",
        "version": version,
        "description": SUMMARY,
        "license": "MIT OR Apache-2.0",
        "bin": {"setup-ready": "start.js"},
        "os": [NODE_SYSTEMS[system] for system in programs],
        "cpu": ["x64"],
        "files": ["start.js", "bin", *LICENSES],
    }
    files = {
        "package.json": (json.dumps(about, indent=2).encode() + b"\n", 0o644),
        "start.js": ((ROOT / "tools/packages/start.js").read_bytes(), 0o755),
        "README.md": (LONG.encode(), 0o644),
    }
    for system, program in programs.items():
        end = ".exe" if system == "windows" else ""
        files[f"bin/{NODE_SYSTEMS[system]}-x64/setup-ready{end}"] = (program.read_bytes(), 0o755)
    files |= {name: ((ROOT / name).read_bytes(), 0o644) for name in LICENSES}
    (folder / f"setup-ready-{version}.tgz").write_bytes(tar_bytes(files, "package/"))


def deb(version, folder, program):
    """A package of Debian's format 2.0 (deb(5)), with completions and manual pages that the program itself writes."""
    ask = lambda *words: subprocess.run([program, *words], check=True, capture_output=True).stdout
    commands = ask("completions", "fish").decode()
    names = sorted({line.split('-a "')[1].split('"')[0] for line in commands.splitlines() if '__fish_setup_ready_needs_command" -f -a "' in line})
    assert len(names) > 10, names
    files = {
        "usr/bin/setup-ready": (program.read_bytes(), 0o755),
        "usr/share/bash-completion/completions/setup-ready": (ask("completions", "bash"), 0o644),
        "usr/share/zsh/vendor-completions/_setup-ready": (ask("completions", "zsh"), 0o644),
        "usr/share/fish/vendor_completions.d/setup-ready.fish": (ask("completions", "fish"), 0o644),
        "usr/share/man/man1/setup-ready.1.gz": (gzip.compress(ask("manual"), mtime=0), 0o644),
        "usr/share/doc/setup-ready/copyright": ((ROOT / "LICENSE-MIT").read_bytes(), 0o644),
        "usr/share/doc/setup-ready/LICENSE-APACHE": ((ROOT / "LICENSE-APACHE").read_bytes(), 0o644),
    }
    for name in names:
        if name != "help":
            files[f"usr/share/man/man1/setup-ready-{name}.1.gz"] = (gzip.compress(ask("manual", name), mtime=0), 0o644)
    size = sum(len(content) for content, _ in files.values()) // 1024 + 1
    paragraphs = [textwrap.wrap(paragraph, 75) for paragraph in LONG.strip().split("\n\n")[1:]]
    description = "\n .\n".join("\n".join(f" {line}" for line in lines) for lines in paragraphs)
    control = (
        f"Package: setup-ready\nVersion: {version}\nArchitecture: amd64\nMaintainer: The Build Setup Ready developers <developers@driftbuoy.example>\n"
        f"Installed-Size: {size}\nSection: devel\nPriority: optional\nDescription: {SUMMARY}\n"
        f"{description}\n"
    )
    sums = "".join(f"{hashlib.md5(content).hexdigest()}  {name}\n" for name, (content, _) in sorted(files.items()))
    parts = {
        "debian-binary": b"2.0\n",
        "control.tar.gz": tar_bytes({"control": (control.encode(), 0o644), "md5sums": (sums.encode(), 0o644)}, "./"),
        "data.tar.gz": tar_bytes(files, "./"),
    }
    # ar(5), the common form.
    archive = b"!<arch>\n"
    for name, content in parts.items():
        archive += f"{name:<16}{DAY:<12}{0:<6}{0:<6}{0o100644:<8o}{len(content):<10}`\n".encode() + content + b"\n" * (len(content) % 2)
    (folder / f"setup-ready_{version}_amd64.deb").write_bytes(archive)


def main():
    version, folder, *given = sys.argv[1:]
    folder = pathlib.Path(folder)
    programs = {system: pathlib.Path(path) for system, path in (one.split("=", 1) for one in given)}
    for system, program in programs.items():
        wheel(version, folder, system, program)
    npm(version, folder, programs)
    deb(version, folder, programs["linux"])


main()
