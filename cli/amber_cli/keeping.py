"""Keeps a program running: `python -m amber_cli.keeping PROGRAM ...` starts it again whenever it ends by itself."""

from __future__ import annotations

import ctypes
import signal
import subprocess
import sys
import time
from collections.abc import Sequence

from amber_cli.say import step

FIRST_PAUSE_S = 1.0
_LONGEST_PAUSE_S = 60.0
_SETTLED_S = 60.0
_ENDING_S = 8.0
_PR_SET_PDEATHSIG = 1
_SIGNALS = (signal.SIGINT, signal.SIGTERM, signal.SIGHUP)


def end_with_parent() -> None:
    """In a child before its program begins: the kernel ends it with its parent, even after kill -9."""
    ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, signal.SIGTERM)


def keep_running(command: Sequence[str]) -> int:
    """Run a program until this process is told to end; one that ends at once is started again after a longer pause each time."""
    pause = FIRST_PAUSE_S
    child: subprocess.Popen[bytes] | None = None
    try:
        while True:
            began = time.monotonic()
            child = subprocess.Popen(command, preexec_fn=end_with_parent)
            status = child.wait()
            pause = FIRST_PAUSE_S if time.monotonic() - began > _SETTLED_S else pause
            step(f"What works in the background ended by itself (status {status}); it is started again in {pause:.0f} s")
            time.sleep(pause)
            pause = min(2.0 * pause, _LONGEST_PAUSE_S)
    except KeyboardInterrupt:
        if child is not None:
            _end(child)
        return 0


def _end(child: subprocess.Popen[bytes]) -> None:
    ignore_signals()
    child.terminate()
    try:
        child.wait(timeout=_ENDING_S)
    except subprocess.TimeoutExpired:
        child.kill()


def heed_signals() -> None:
    """Ctrl-C, a termination and a closed terminal all come as KeyboardInterrupt, whenever they come."""

    def told(number: int, frame: object) -> None:
        raise KeyboardInterrupt

    for number in _SIGNALS:
        signal.signal(number, told)


def ignore_signals() -> None:
    """From here on nothing that is pressed keeps this process from ending what it started."""
    for number in _SIGNALS:
        signal.signal(number, signal.SIG_IGN)


if __name__ == "__main__":
    heed_signals()
    sys.exit(keep_running(sys.argv[1:]))
