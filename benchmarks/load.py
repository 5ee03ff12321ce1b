"""./amber bench load: many people at once. Requests a second, the middle and the slowest twentieth, and how many failed."""

from __future__ import annotations

import http.client
import json
import statistics
import sys
import threading
import time
import uuid
from collections.abc import Callable, Iterator
from typing import Any

import django

from benchmarks.hostile import memory_mb
from benchmarks.run import Browser

CLIENTS = (1, 8, 32)
_SECONDS = 6.0
_WORKS_EACH = 4
_TRIALS = 3
_STRANGERS = 24


def main(port: int, master: int) -> None:
    """Every kind of request at every number of people."""
    django.setup()
    from accounts import demo as people
    from records.models import Allowance

    Allowance.objects.all().delete()  # the strangers of the run before had this address too
    browsers = [Browser(port) for _ in range(max(CLIENTS))]
    for browser in browsers:
        browser.sign_in(people.PASSWORD)
    works = [_work(browsers[0], number) for number in range(max(CLIENTS) * _WORKS_EACH)]
    print(f"Each line {_SECONDS:.0f} s; each person at benches of their own with {_TRIALS} trials of 8 readings")
    for name, kind in (("session", _me), ("Floor", _floor), ("bench", _bench), ("a reading", _reading), ("advice, kept", _advice)):
        for clients in CLIENTS:
            turns = [kind(browsers[at], works[at * _WORKS_EACH : (at + 1) * _WORKS_EACH]) for at in range(clients)]
            print(f"{name:<13} {clients:>2} at once  {_measured(turns)}", flush=True)
    _flooded(port, master, browsers[0])


def _measured(turns: list[Iterator[Callable[[], Any]]]) -> str:
    took: list[float] = []
    wrong: list[str] = []
    end = time.monotonic() + _SECONDS

    def work(turn: Iterator[Callable[[], Any]]) -> None:
        for ask in turn:
            began = time.monotonic()
            if began >= end:
                return
            try:
                ask()
            except (RuntimeError, OSError) as failed:
                wrong.append(str(failed)[:120])
            took.append(time.monotonic() - began)

    threads = [threading.Thread(target=work, args=(turn,)) for turn in turns]
    began = time.monotonic()
    for one in threads:
        one.start()
    for one in threads:
        one.join()
    each_s = len(took) / (time.monotonic() - began)
    p50, p95 = 1000 * statistics.median(took), 1000 * statistics.quantiles(took, n=20)[-1]
    failed = f"{len(wrong)} failed" + (f", first: {wrong[0]}" if wrong else "")
    return f"{each_s:6.0f} a second   p50 {p50:6.1f} ms   p95 {p95:6.1f} ms   {failed}"


def _flooded(port: int, master: int, browser: Browser) -> None:
    """The Floor while strangers try passwords in as many loops as they can."""
    before = memory_mb(master)
    calm = _measured([_floor(browser, None)])
    end, refused = threading.Event(), [0]

    def try_on() -> None:
        stranger = Browser(port)
        while not end.is_set():
            try:
                stranger.call("GET", "/api/v1/csrf")
                stranger.sign_in(f"nonsense-{refused[0]}")
            except (RuntimeError, OSError, http.client.HTTPException):
                refused[0] += 1

    threads = [threading.Thread(target=try_on) for _ in range(_STRANGERS)]
    for one in threads:
        one.start()
    time.sleep(1)
    flooded = _measured([_floor(browser, None)])
    after = memory_mb(master)
    end.set()
    for one in threads:
        one.join()
    print(f"Floor, calm             {calm}")
    print(f"Floor, {_STRANGERS} strangers    {flooded}   {refused[0]} passwords refused; memory {before:.0f} to {after:.0f} MB")


def _write(browser: Browser, path: str, **body: Any) -> Any:
    browser.call("POST", f"/api/v1{path}", {"client_id": str(uuid.uuid4()), **body})
    return json.loads(browser.text)


def _work(browser: Browser, number: int) -> tuple[str, list[str]]:
    """A job on the bench: its id and its trials'."""
    work = str(uuid.uuid4())
    card = {"customer": "Load", "vehicle": f"Load {number}", "layout": "rear_drive", "axle": "rear", "family": "corrie-ls19"}
    _write(browser, "/jobs", id=work, complaint="Howl", use="road", **card)
    _write(browser, f"/work/{work}/gear-set", pinion_teeth=10, ring_teeth=41)
    trials = []
    for after in range(_TRIALS):
        depth = {} if after else {"depth": "0.80 mm"}
        bench = _write(browser, f"/work/{work}/trials", after=after, ring_side=f"{4.6 + 0.01 * after:.2f} mm", far_side="4.50 mm", **depth)
        trials.append(bench["trials"][-1]["id"])
        for place in range(8):
            _write(browser, f"/trials/{trials[-1]}/readings", angle_deg=45.0 * place, typed=f"0.{14 + place % 4} mm")
    for flank in ("drive", "coast"):
        _write(browser, f"/trials/{trials[-1]}/patterns", flank=flank, u=0.48, v=0.5, length=0.5, height=0.45, tilt_deg=10.0)
    return work, trials


def _me(browser: Browser, works: Any) -> Iterator[Callable[[], Any]]:
    while True:
        yield lambda: browser.call("GET", "/api/v1/me")


def _floor(browser: Browser, works: Any) -> Iterator[Callable[[], Any]]:
    while True:
        yield lambda: browser.call("GET", "/api/v1/floor")


def _bench(browser: Browser, works: list[tuple[str, list[str]]]) -> Iterator[Callable[[], Any]]:
    while True:
        for work, _ in works:
            yield lambda work=work: browser.call("GET", f"/api/v1/work/{work}/bench")  # type: ignore[misc]


def _advice(browser: Browser, works: list[tuple[str, list[str]]]) -> Iterator[Callable[[], Any]]:
    while True:
        for work, _ in works:
            yield lambda work=work: browser.call("GET", f"/api/v1/work/{work}/advice")  # type: ignore[misc]


def _reading(browser: Browser, works: list[tuple[str, list[str]]]) -> Iterator[Callable[[], Any]]:
    place = 0
    while True:
        for _, trials in works:
            place += 1
            # a trial takes 64 readings, so they go to every trial in turn
            path, angle = f"/trials/{trials[place % _TRIALS]}/readings", 45.0 * (place % 8)
            yield lambda path=path, angle=angle: _write(browser, path, angle_deg=angle, typed="0.15 mm")  # type: ignore[misc]


if __name__ == "__main__":
    main(int(sys.argv[1]), int(sys.argv[2]))
