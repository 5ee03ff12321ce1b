"""A workshop that people write to while its parts are killed, and the browser of one of them.

Every write has a client-made id and is sent again under it until it is answered. In the end every acknowledged write has to be there,
exactly once, and nothing may have needed a hand. Seeded: the same kills in the same order.
"""

from __future__ import annotations

import os
import random
import signal
import sys
import threading
import time
from collections import Counter
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Protocol

from amber_cli.say import Failed
from benchmarks.tablet import Tablet
from benchmarks.writers import PATIENCE_S, Seen, Writer

_WRITERS = 4
_BETWEEN_S = (0.5, 3.0)
_ROWS = {
    "reading": "setup_bench_reading",
    "trial": "setup_bench_trial",
    "step": "work_steprecord",
    "picture": "parts_wall_partphoto",
    "gear set": "work_gearsetrecord",
}
_READ = """
SELECT trial.client_id || '=' || count(*) || '=' || count(DISTINCT reading.angle_deg)
FROM setup_bench_reading reading JOIN setup_bench_trial trial ON trial.id = reading.trial_id GROUP BY trial.client_id
"""

Way = Callable[[random.Random], None]


class Place(Protocol):
    """What is written to and killed."""

    def writer(self, seen: Seen) -> Writer:
        """One more person."""

    def ways(self) -> dict[str, Way]:
        """What can be killed, and how; LookupError, OSError or ValueError when it is not there just now."""

    def settle(self) -> str:
        """Wait until everything that was killed is back; what is not, in words."""

    def databases(self) -> dict[str, Callable[[str], str]]:
        """Everywhere that an acknowledged write has to be in the end, and what a statement answers there."""


def torment(place: Place, *, kills: int, minutes: float, seed: int) -> int:
    """Write and kill, so often or so long; then count. 1 when anything is missing, doubled, refused, stumbled over, or needed a hand."""
    seen, chosen = Seen(), random.Random(seed)
    writers, tablet = [place.writer(seen) for _ in range(_WRITERS)], Tablet(place.writer(seen))
    threads = [threading.Thread(target=one.work, daemon=True) for one in (*writers, tablet)]
    ways = {**place.ways(), "a browser": tablet.kill}
    before = {name: int(ask("SELECT count(*) FROM jobs_job")) for name, ask in place.databases().items()}
    for thread in threads:
        thread.start()
    if not _until(lambda: len(seen.acknowledged) > 20):
        print(f"nothing was answered before the first kill: {seen.refused[:3]}")
        return 1
    began, done, stuck = time.monotonic(), Counter[str](), ""
    for name in _order(sorted(ways), chosen):
        if sum(done.values()) >= kills or time.monotonic() - began > 60 * minutes:
            break
        time.sleep(chosen.uniform(*_BETWEEN_S))
        answered = len(seen.acknowledged)
        seen.killed(name)
        try:
            ways[name](chosen)
        except (OSError, LookupError, ValueError):
            continue  # it was just starting again
        done[name] += 1
        if not _until(lambda answered=answered: len(seen.acknowledged) > answered + _WRITERS):  # type: ignore[misc]
            stuck = f"after {name} nothing was answered for {PATIENCE_S:.0f} s: it needs a hand"
            break
        if sum(done.values()) % 20 == 0:
            said = f"  {sum(done.values())} kills, {len(seen.acknowledged)} acknowledged, longest silence {seen.longest[0]:.1f} s"
            print(said, file=sys.stderr, flush=True)
    for one in (*writers, tablet):
        one.ended.set()
    for thread in threads:
        thread.join(timeout=2 * PATIENCE_S)
    took_s = time.monotonic() - began
    late = "somebody is still waiting for an answer" if any(thread.is_alive() for thread in threads) else ""
    return _judged(place, seen, done, before, took_s, [one for one in (stuck, late, place.settle()) if one])


def _order(names: list[str], chosen: random.Random) -> Iterator[str]:
    while True:
        yield from chosen.sample(names, len(names))


def _until(holds: Callable[[], bool]) -> bool:
    began = time.monotonic()
    while not holds():
        if time.monotonic() - began > PATIENCE_S:
            return False
        time.sleep(0.05)
    return True


def _judged(place: Place, seen: Seen, done: Counter[str], before: dict[str, int], took_s: float, wrong: list[str]) -> int:
    print(f"{sum(done.values())} kills in {took_s:.0f} s: {', '.join(f'{name} {count}' for name, count in sorted(done.items()))}")
    kinds = Counter(seen.acknowledged.values())
    told = ", ".join(f"{name} {count}" for name, count in kinds.items())
    print(f"{len(seen.acknowledged)} acknowledged ({told}), {seen.retries} sent again, {len(seen.refused)} refused")
    print(f"a browser read {len(seen.promised)} trials, {sum(seen.promised.values())} readings that its page had taken in")
    for name, ask in place.databases().items():
        try:
            missing, doubled = _looked_for(ask, seen, before[name])
        except Failed as away:
            wrong.append(f"{name} cannot be asked: {away}")
            continue
        print(f"{name}: {len(missing)} missing, {len(doubled)} doubled")
        wrong += [f"{name}: missing {one}" for one in missing[:5]] + [f"{name}: doubled {one}" for one in doubled[:5]]
    print(f"longest time without an answer to anybody: {seen.longest[0]:.1f} s (after {seen.longest[1]})")
    for name, silence in sorted(seen.silences().items()):
        print(f"  after {name}: {silence[len(silence) // 2]:.1f} s in the middle, {silence[-1]:.1f} s at worst")
    print(f"{len(seen.turned_away)} answers that should not be")
    for line in [*wrong, *seen.refused[:5], *seen.turned_away[:10]]:
        print(f"  {line}")
    return int(bool(wrong or seen.refused or seen.turned_away))


def _looked_for(ask: Callable[[str], str], seen: Seen, jobs_before: int) -> tuple[list[str], list[str]]:
    missing, doubled = [], []
    envelopes = set(ask("SELECT id FROM records_write").split())
    wanted = sum(one == "job" for one in seen.acknowledged.values())  # a job's row has the job's own id
    stored = int(ask("SELECT count(*) FROM jobs_job")) - jobs_before
    missing += [f"{wanted - stored} jobs"] if stored < wanted else []
    doubled += [f"{stored - wanted} jobs"] if stored > wanted + _WRITERS + 1 else []  # everybody may have one that was not answered
    for what, table in _ROWS.items():
        counted = Counter(ask(f"SELECT client_id FROM {table}").split())
        mine = [write for write, one in seen.acknowledged.items() if one == what]
        missing += [f"{what} {write}" for write in mine if counted[write] == 0]
        doubled += [f"{what} {write}" for write in mine if counted[write] > 1]
    counts = {trial: (int(rows), int(places)) for trial, rows, places in (line.split("=") for line in ask(_READ).split())}
    for trial, promised in seen.promised.items():
        rows, places = counts.get(trial, (0, 0))
        missing += [f"{promised - places} readings that a page had taken in at trial {trial}"] if places < promised else []
        doubled += [f"{rows - places} readings of a page at trial {trial}"] if rows > places else []
    missing += [f"envelope {write}" for write in seen.acknowledged if write not in envelopes]
    return missing, doubled


def kill(found: list[int], chosen: random.Random) -> None:
    """One of them.

    Raises
    ------
    LookupError
        When there is none.
    """
    os.kill(chosen.choice(sorted(found)), signal.SIGKILL)


def pids(mark: str, *, parent: int | None = None) -> list[int]:
    """Processes whose command line holds a mark, all or those of one parent."""
    found = []
    for place in Path("/proc").glob("[0-9]*"):
        try:
            command = (place / "cmdline").read_bytes().replace(b"\0", b" ").decode(errors="replace")
            above = int((place / "stat").read_text().rsplit(")", 1)[1].split()[1])
        except (OSError, IndexError):
            continue
        if mark in command and (parent is None or above == parent):
            found.append(int(place.name))
    return found


def masters(mark: str) -> list[int]:
    """Those of them that no other of them started."""
    every = set(pids(mark))
    return [one for one in every if not any(one in pids(mark, parent=other) for other in every)]


def queue_workers(environment: str) -> list[int]:
    """Queue workers whose environment holds a text: the address of the database that they work for."""
    found = []
    for one in pids("procrastinate worker"):
        try:
            if environment.encode() in Path(f"/proc/{one}/environ").read_bytes():
                found.append(one)
        except OSError:
            continue
    return found
