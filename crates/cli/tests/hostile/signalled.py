"""Starts a program as a terminal would, sends it a signal after a moment, and fails where it has not ended fifteen seconds later."""
import os, signal, subprocess, sys, time

number = getattr(signal, "SIG" + sys.argv[1])


def as_a_terminal_would():
    for each in (signal.SIGINT, signal.SIGQUIT, signal.SIGHUP, signal.SIGTERM):
        signal.signal(each, signal.SIG_DFL)


program = subprocess.Popen(sys.argv[2:], preexec_fn=as_a_terminal_would)
time.sleep(float(os.environ.get("AFTER", "1.5")))
program.send_signal(number)
try:
    program.wait(15)
except subprocess.TimeoutExpired:
    program.kill()
    sys.exit("it did not end within fifteen seconds of the signal")
