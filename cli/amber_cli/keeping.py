"""Keeps what a command started running: whatever ends by itself is started again, and that is said."""

from __future__ import annotations

import contextlib
import ctypes
import os
import signal
import subprocess
import time
from abc import ABC, abstractmethod
from collections.abc import Callable, Sequence
from pathlib import Path

from amber_cli.postgres import Cluster
from amber_cli.say import Failed, step

FIRST_PAUSE_S = 1.0
MOST_TRIES = 5
_WARN_AFTER = 3
_LONGEST_PAUSE_S = 60.0
_LONGEST_PAUSE_OF_OTHERS_S = 2.0  # it may only have waited for the database, and is wanted as soon as that is back
_SETTLED_S = 15.0
_ENDING_S = 10.0
_LOOK_S = 0.25
_PR_SET_PDEATHSIG = 1
_SIGNALS = (signal.SIGINT, signal.SIGTERM, signal.SIGHUP)


def end_with_parent() -> None:
    """In a child before its program begins: the kernel ends it with its parent, even after kill -9."""
    ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, signal.SIGTERM)


class Kept(ABC):
    """Something that is to run. One that is `needed` ends everything when it will not stay up; any other is tried on and on, and `alone`
    says how to see why."""

    def __init__(self, name: str, *, needed: bool, alone: str = "") -> None:
        self.name, self.needed, self.alone = name, needed, alone
        self.tries = 0
        self.began = time.monotonic()
        self.again_at: float | None = None

    @abstractmethod
    def start(self) -> None:
        """Begin, or begin again."""

    @abstractmethod
    def ended(self) -> str | None:
        """How it ended; None while it runs."""


class Program(Kept):
    """A program in a session of its own, so that Ctrl-C reaches it through us; it ends with us even after kill -9."""

    def __init__(
        self,
        name: str,
        command: Sequence[str | Path],
        *,
        needed: bool = True,
        env: dict[str, str] | None = None,
        cwd: Path | None = None,
        alone: str = "",
        ending_s: float = _ENDING_S,
        log: Path | None = None,
    ) -> None:
        super().__init__(name, needed=needed, alone=alone)
        self.command, self.env, self.cwd, self.ending_s = [str(part) for part in command], env, cwd, ending_s
        self.log = log
        self.process: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        with self.log.open("ab") if self.log else contextlib.nullcontext() as told:
            self.process = subprocess.Popen(
                self.command, cwd=self.cwd, env=self.env, stdout=told, stderr=told, start_new_session=True, preexec_fn=end_with_parent
            )

    def ended(self) -> str | None:
        assert self.process is not None
        status = self.process.poll()
        if status is None:
            return None
        with contextlib.suppress(ProcessLookupError):  # what it left behind would hold its port
            os.killpg(self.process.pid, signal.SIGKILL)
        return f"status {status}"

    def stop(self) -> None:
        """End it, and whatever it started."""
        if self.process is None or self.process.poll() is not None:
            return
        self.process.terminate()
        try:
            self.process.wait(timeout=self.ending_s)
        except subprocess.TimeoutExpired:
            os.killpg(self.process.pid, signal.SIGKILL)
            self.process.wait()


class Database(Kept):
    """The private PostgreSQL cluster, which whoever made it also stops."""

    def __init__(self, cluster: Cluster, *, needed: bool = True) -> None:
        super().__init__("PostgreSQL", needed=needed, alone=f"its log is {cluster.log}")
        self.cluster = cluster

    def start(self) -> None:
        self.cluster.start()

    def ended(self) -> str | None:
        return None if self.cluster.runs() else "its process is gone"


def keep(all_of_it: Sequence[Kept], *, until: Callable[[], bool] = lambda: False) -> int:
    """Look after what runs until this process is told to end, or `until` holds.

    Raises
    ------
    Failed
        When something that is needed ended six times, each time soon after its start.
    """
    try:
        while not until():
            for one in all_of_it:
                _look_after(one)
            time.sleep(_LOOK_S)
        return 0
    except KeyboardInterrupt:
        ignore_signals()  # a second Ctrl-C must not leave the database running
        return 0


def _look_after(one: Kept) -> None:
    now = time.monotonic()
    if one.again_at is not None:
        if now >= one.again_at:
            one.again_at, one.began = None, now
            _started_again(one)
        return
    how = one.ended()
    if how is not None:
        _ended(one, how)


def _started_again(one: Kept) -> None:
    try:
        one.start()
    except Failed as wrong:
        if one.needed:
            raise
        _ended(one, str(wrong))


def _ended(one: Kept, how: str) -> None:
    now = time.monotonic()
    one.tries = 1 if now - one.began > _SETTLED_S else one.tries + 1
    if one.needed and one.tries > MOST_TRIES:
        raise Failed(f"{one.name} ended {one.tries} times soon after its start ({how}): its own message stands above.")
    longest = _LONGEST_PAUSE_S if one.needed else _LONGEST_PAUSE_OF_OTHERS_S
    pause = min(FIRST_PAUSE_S * 2.0 ** (one.tries - 1), longest)
    if one.needed or one.tries <= _WARN_AFTER:
        step(f"{one.name} ended by itself ({how}); it is started again in {pause:.0f} s")
    if not one.needed and one.tries == _WARN_AFTER:
        way = f" To see why: {one.alone}." if one.alone else ""
        step(f"{one.name} did not stay up {one.tries} times. It is tried on without a word until it does.{way}")
    one.again_at = now + pause


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
