"""Ends a preflight by a signal at a random moment, many times, each in a terminal of its own, and tells what was left behind.

moments.py PROGRAM TIMES SEED: ends with 0 where nothing was."""
import concurrent.futures, fcntl, glob, json, os, random, re, shutil, signal, subprocess, sys, tempfile, termios, time

program, times, seed = sys.argv[1], int(sys.argv[2]), int(sys.argv[3])
SIGNALS = [signal.SIGINT, signal.SIGTERM, signal.SIGHUP, signal.SIGQUIT, signal.SIGKILL]
# What takes itself out of the way, each in its own manner; `stty` finds the terminal by its path.
TOOLS = {
    "buoy-a": "sleep NAP",
    "buoy-b": "setsid sleep NAP & setsid setsid sleep NAP & echo 1.0",
    "buoy-c": "trap '' TERM INT HUP QUIT; sleep NAP; sleep NAP",
    "buoy-d": "(setsid sh -c 'sleep NAP & exit' &) ; echo 1.0",
    "buoy-e": "stty -echo raw < TERMINAL; sleep NAP",
    "buoy-f": "exec perl -e 'setpgrp(0,0); system(\"sleep NAP\")'",
}


def living(nap, project):
    """What was started and lives: by the words it was started with, and whoever works in the project (the program's own processes)."""
    found = []
    for folder in glob.glob("/proc/[0-9]*"):
        try:
            text = open(f"{folder}/cmdline", "rb").read().decode(errors="replace")
            place = os.readlink(f"{folder}/cwd")
        except OSError:
            continue
        if (nap in text or place == project) and "moments" not in text:
            found.append(text.replace("\0", " "))
    return found


def attempt(number):
    chance = random.Random(seed * 1000 + number)
    number_of_signal = SIGNALS[number % len(SIGNALS)]
    # Half of them about where it ends by itself, by its limit of a second: two processes end there, one after the other.
    after = chance.uniform(0, 1.1) if chance.random() < 0.5 else chance.uniform(0.9, 1.3)
    root = tempfile.mkdtemp()
    nap = f"57.{os.getpid()}{number:03}"
    master, slave = os.openpty()
    for folder in ("project", "home", "tools"):
        os.mkdir(f"{root}/{folder}")
    guide = 'format = 1\n[project]\nname = "Lure"\n'
    for name, body in TOOLS.items():
        with open(f"{root}/tools/{name}", "w") as file:
            file.write("#!/bin/sh\n" + body.replace("NAP", nap).replace("TERMINAL", os.ttyname(slave)) + "\n")
        os.chmod(f"{root}/tools/{name}", 0o755)
        guide += f'[require.{name}]\ntool = "{name}"\nversion = ">= 1"\n'
    with open(f"{root}/project/setup-guide.toml", "w") as file:
        file.write(guide)
    before = termios.tcgetattr(slave)

    def as_in_a_terminal():
        os.setsid()
        fcntl.ioctl(slave, termios.TIOCSCTTY, 0)
        for each in SIGNALS[:4]:
            signal.signal(each, signal.SIG_DFL)

    environment = {"PATH": f"{root}/tools:/usr/bin:/bin", "HOME": f"{root}/home", "TERM": "dumb", "LANG": "C.UTF-8"}
    words = [program, "preflight", "--time-limit", "1s", "--format", "json", "--output", "report.json"]
    started = subprocess.Popen(words, cwd=f"{root}/project", env=environment, stdin=slave, stdout=slave, stderr=slave, preexec_fn=as_in_a_terminal)
    time.sleep(after)
    started.send_signal(number_of_signal)
    faults = []
    until = time.time() + 20
    said = b""
    os.set_blocking(master, False)
    while started.poll() is None and time.time() < until:
        try:
            said += os.read(master, 65536)
        except OSError:
            pass
        time.sleep(0.01)
    if started.poll() is None:
        started.kill()
        faults.append("it did not end within twenty seconds")
    # Whoever ends them may have to wait for the machine; killed itself, its other process does that and is not waited for by anybody.
    project = os.path.realpath(f"{root}/project")
    until = time.time() + 20
    while living(nap, project) and time.time() < until:
        time.sleep(0.05)
    left = living(nap, project)
    if left:
        faults.append(f"lives on: {left}")
        subprocess.run(["pkill", "-9", "-f", nap])
    if termios.tcgetattr(slave) != before:
        faults.append("the terminal's modes are others than before")
    if b"panicked" in said:
        faults.append("panicked")
    names = set(os.listdir(f"{root}/project")) - {"setup-guide.toml", "report.json"}
    if names:
        faults.append(f"left in the project: {names}")
    if os.path.exists(f"{root}/project/report.json"):
        try:
            json.load(open(f"{root}/project/report.json"))
        except ValueError:
            faults.append("half a report")
    os.close(master)
    os.close(slave)
    shutil.rmtree(root)
    return [f"{number_of_signal.name} after {after:.3f} s: {fault}" for fault in faults]


with concurrent.futures.ThreadPoolExecutor(4) as pool:
    faults = [fault for some in pool.map(attempt, range(times)) for fault in some]
print(f"{times} moments, seed {seed}: {len(faults)} faults", *faults, sep="\n  ")
sys.exit(bool(faults))
