"""./amber torture: a workshop of its own that people write to while its parts are killed.

Every write has a client-made id and is sent again under it until it is answered. In the end every acknowledged write has to be there,
exactly once, and nothing may have needed a hand. Seeded: the same kills in the same order.
"""

from __future__ import annotations

import http.client
import io
import json
import os
import random
import signal
import ssl
import subprocess
import sys
import threading
import time
import uuid
from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from PIL import Image

from amber_cli.install import POSTGRES_BIN
from amber_cli.postgres import as_database_user
from amber_cli.workshop.database import DATABASE, HouseCluster
from amber_cli.workshop.home import Home

_WRITERS = 4
_PATIENCE_S = 180.0
_BETWEEN_S = (0.5, 3.0)


def _picture() -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (64, 48), (180, 120, 40)).save(out, "PNG")
    return out.getvalue()


_PICTURE = _picture()


@dataclass
class Seen:
    """What the writers saw."""

    acknowledged: dict[str, str] = field(default_factory=dict)
    refused: list[str] = field(default_factory=list)
    retries: int = 0
    last_answer: float | None = None
    longest_s: float = 0.0
    longest_after: str = "the start"
    killed: str = "the start"
    lock: threading.Lock = field(default_factory=threading.Lock)

    def answered(self, write: str, what: str) -> None:
        """One more acknowledged write."""
        with self.lock:
            self.acknowledged[write] = what
            silent = time.monotonic() - (self.last_answer or time.monotonic())
            if silent > self.longest_s:
                self.longest_s, self.longest_after = silent, self.killed
            self.last_answer = time.monotonic()


class Writer:
    """A bench that writes one thing after another, each until it is answered."""

    def __init__(self, home: Home, seen: Seen, password: str) -> None:
        settings = home.settings
        self.trusted = ssl.create_default_context(cafile=str(home.tls / "house.crt"))
        self.host, self.port = settings.hosts[0], settings.https_port
        self.seen, self.password = seen, password
        self.cookies: dict[str, str] = {}
        self.connection: http.client.HTTPSConnection | None = None
        self.ended = threading.Event()

    def call(self, method: str, path: str, body: Any = None, *, form: bytes = b"", kind: str = "application/json") -> tuple[int, Any]:
        """One request; OSError or HTTPException when nobody answers."""
        if self.connection is None:
            self.connection = http.client.HTTPSConnection(self.host, self.port, context=self.trusted, timeout=30)
        there = f"https://{self.host}:{self.port}/"
        headers = {"Content-Type": kind, "Referer": there, "X-CSRFToken": self.cookies.get("csrftoken", "")}
        headers["Cookie"] = "; ".join(f"{name}={value}" for name, value in self.cookies.items())
        try:
            self.connection.request(method, f"/api/v1{path}", form or (None if body is None else json.dumps(body)), headers)
            reply = self.connection.getresponse()
            text = reply.read()
        except (OSError, http.client.HTTPException):
            self.connection.close()
            self.connection = None
            raise
        for cookie in reply.headers.get_all("Set-Cookie") or []:
            name, value = cookie.split(";")[0].split("=", 1)
            self.cookies[name] = value
        return reply.status, json.loads(text) if text else None

    def surely(self, what: str, method: str, path: str, body: dict[str, Any], *, picture: bool = False) -> Any:
        """Send until it is answered, always under the same id."""
        write = str(body["client_id"])
        until = time.monotonic() + _PATIENCE_S
        while time.monotonic() < until:
            try:
                status, answer = self._send(method, path, body, picture=picture)
            except (OSError, http.client.HTTPException, ValueError):
                status, answer = 0, None
            if status in (200, 201):
                self.seen.answered(write, what)
                return answer
            if status in (400, 404, 409, 413, 422):
                self.seen.refused.append(f"{what}: {status} {answer}")
                return answer
            if status in (401, 403):
                self.sign_in()
            self.seen.retries += 1
            time.sleep(0.2)
        self.seen.refused.append(f"{what}: no answer in {_PATIENCE_S:.0f} s")
        return None

    def _send(self, method: str, path: str, body: dict[str, Any], *, picture: bool) -> tuple[int, Any]:
        if not picture:
            return self.call(method, path, body)
        edge = uuid.uuid4().hex
        parts = [f'--{edge}\r\nContent-Disposition: form-data; name="{name}"\r\n\r\n{value}\r\n'.encode() for name, value in body.items()]
        head = f'--{edge}\r\nContent-Disposition: form-data; name="file"; filename="part.png"\r\nContent-Type: image/png\r\n\r\n'
        form = b"".join(parts) + head.encode() + _PICTURE + f"\r\n--{edge}--\r\n".encode()
        return self.call(method, path, form=form, kind=f"multipart/form-data; boundary={edge}")

    def sign_in(self) -> None:
        """Until it works."""
        while True:
            try:
                self.call("GET", "/csrf")
                status, _ = self.call("POST", "/sign-in", {"username": "greta", "password": self.password})
                if status == 200:
                    return
            except (OSError, http.client.HTTPException, ValueError):
                pass
            time.sleep(0.5)

    def work(self) -> None:
        """Jobs, readings, steps and pictures until told to end."""
        self.sign_in()
        while not self.ended.is_set():
            self._one_job()

    def _one_job(self) -> None:
        def new(**more: Any) -> dict[str, Any]:
            return {"client_id": str(uuid.uuid4()), **more}

        job = str(uuid.uuid4())
        card = {"customer": "Torture", "vehicle": "Van", "layout": "rear_drive", "axle": "rear", "family": "corrie-ls19", "use": "road"}
        self.surely("job", "POST", "/jobs", new(id=job, complaint="Howl", **card))
        self.surely("gear set", "POST", f"/work/{job}/gear-set", new(pinion_teeth=10, ring_teeth=41))
        stacks = {"ring_side": "4.60 mm", "far_side": "4.50 mm", "depth": "0.80 mm"}
        bench = self.surely("trial", "POST", f"/work/{job}/trials", new(after=0, **stacks))
        if not bench or not bench.get("trials"):
            return
        trial = bench["trials"][-1]["id"]
        for place in range(24):
            if self.ended.is_set():
                return
            self.surely("reading", "POST", f"/trials/{trial}/readings", new(angle_deg=45.0 * (place % 8), typed="0.15 mm"))
            if place % 6 == 0:
                self.surely("picture", "POST", f"/work/{job}/parts/photos", new(key="cover"), picture=True)
        self.surely("step", "POST", f"/work/{job}/steps/complaint/pass", new())


def _pids(mark: str, *, parent: int | None = None) -> list[int]:
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


def targets(home: Home) -> dict[str, Callable[[random.Random], None]]:
    """What can be killed, and how."""
    web, cluster = f"--bind 127.0.0.1:{home.settings.web_port}", HouseCluster(home)

    def kill(pids: list[int], chosen: random.Random) -> None:
        if pids:
            os.kill(chosen.choice(pids), signal.SIGKILL)

    def masters(mark: str) -> list[int]:
        every = set(_pids(mark))
        return [one for one in every if not any(one in _pids(mark, parent=other) for other in every)]

    def postmaster() -> int:
        return int((cluster.data / "postmaster.pid").read_text().split()[0])

    def immediately(chosen: random.Random) -> None:
        stop = as_database_user([POSTGRES_BIN / "pg_ctl", "-D", cluster.data, "-m", "immediate", "-W", "stop"])
        subprocess.run([str(part) for part in stop], cwd="/", capture_output=True, check=False)

    mine = str(home.folder)
    return {
        "a web worker": lambda chosen: kill([one for master in masters(web) for one in _pids(web, parent=master)], chosen),
        "the web server's master": lambda chosen: kill(masters(web), chosen),
        "the queue's worker": lambda chosen: kill(_queue_workers(home), chosen),
        "PostgreSQL, immediately": immediately,
        "PostgreSQL, kill -9": lambda chosen: os.kill(postmaster(), signal.SIGKILL),
        "a connection's process": lambda chosen: kill(_pids("postgres: amber_app", parent=postmaster()), chosen),
        "nginx's master": lambda chosen: kill(_pids(f"nginx: master process nginx -c {mine}"), chosen),
    }


def _queue_workers(home: Home) -> list[int]:
    """Those whose environment is this workshop's."""
    url = home.database_url(DATABASE).encode()
    found = []
    for one in _pids("procrastinate worker"):
        try:
            if url in Path(f"/proc/{one}/environ").read_bytes():
                found.append(one)
        except OSError:
            continue
    return found


def main(arguments: list[str]) -> int:
    """Write, kill, count; 1 when anything is missing, doubled or refused."""
    home, kills, number = Home(Path(arguments[0])), int(arguments[1]), int(arguments[2])
    password = sys.stdin.readline().strip()
    seen, chosen = Seen(), random.Random(number)
    writers = [Writer(home, seen, password) for _ in range(_WRITERS)]
    threads = [threading.Thread(target=writer.work, daemon=True) for writer in writers]
    for one in threads:
        one.start()
    _until(lambda: len(seen.acknowledged) > 20)
    began, done = time.monotonic(), Counter[str]()
    ways = targets(home)
    order = [name for _ in range(-(-kills // len(ways))) for name in chosen.sample(sorted(ways), len(ways))][:kills]
    for at, name in enumerate(order, start=1):
        time.sleep(chosen.uniform(*_BETWEEN_S))
        before = len(seen.acknowledged)
        seen.killed = name
        try:
            ways[name](chosen)
        except (OSError, IndexError, ValueError):
            continue  # it was just starting again
        done[name] += 1
        if not _until(lambda before=before: len(seen.acknowledged) > before + _WRITERS):  # type: ignore[misc]
            print(f"after {name} nothing was answered for {_PATIENCE_S:.0f} s: it needs a hand")
            break
        if at % 20 == 0:
            said = f"  {at} kills, {len(seen.acknowledged)} acknowledged, longest silence {seen.longest_s:.1f} s"
            print(said, file=sys.stderr, flush=True)
    for writer in writers:
        writer.ended.set()
    for one in threads:
        one.join(timeout=_PATIENCE_S)
    return _judged(home, seen, done, time.monotonic() - began)


def _until(holds: Callable[[], bool]) -> bool:
    began = time.monotonic()
    while not holds():
        if time.monotonic() - began > _PATIENCE_S:
            return False
        time.sleep(0.05)
    return True


def _judged(home: Home, seen: Seen, done: Counter[str], took_s: float) -> int:
    cluster = HouseCluster(home)
    rows = {"job": "jobs_job", "reading": "setup_bench_reading", "trial": "setup_bench_trial", "step": "work_steprecord"}
    rows |= {"picture": "parts_wall_partphoto", "gear set": "work_gearsetrecord"}
    missing, doubled = [], []
    envelopes = set(cluster.sql("SELECT id FROM records_write", database=DATABASE).split())
    for what, table in rows.items():
        if what == "job":  # its row has the job's own id
            wanted = sum(one == what for one in seen.acknowledged.values())
            stored = int(cluster.sql(f"SELECT count(*) FROM {table}", database=DATABASE))
            missing += [f"{wanted - stored} jobs"] if stored < wanted else []
            continue
        counted = Counter(cluster.sql(f"SELECT client_id FROM {table}", database=DATABASE).split())
        mine = [write for write, one in seen.acknowledged.items() if one == what]
        missing += [f"{what} {write}" for write in mine if counted[write] == 0]
        doubled += [f"{what} {write}" for write in mine if counted[write] > 1]
    missing += [f"envelope {write}" for write in seen.acknowledged if write not in envelopes]
    kinds = Counter(seen.acknowledged.values())
    print(f"{sum(done.values())} kills in {took_s:.0f} s: {', '.join(f'{name} {count}' for name, count in sorted(done.items()))}")
    told = ", ".join(f"{name} {count}" for name, count in kinds.items())
    print(f"{len(seen.acknowledged)} acknowledged ({told}), {seen.retries} sent again")
    print(f"{len(missing)} missing, {len(doubled)} doubled, {len(seen.refused)} refused")
    print(f"longest time without an answer to anybody: {seen.longest_s:.1f} s (after {seen.longest_after})")
    for line in [*missing[:5], *doubled[:5], *seen.refused[:5]]:
        print(f"  {line}")
    return int(bool(missing or doubled or seen.refused))


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
