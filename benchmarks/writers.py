"""People who write to a workshop that is being killed: each write under a client-made id, sent again until it is answered."""

from __future__ import annotations

import http.client
import io
import json
import threading
import time
import uuid
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

from PIL import Image

PATIENCE_S = 180.0
AWAY = (401, 403, 502, 503, 504)
"""With these one is to sign in, or to ask again."""


def _picture() -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (64, 48), (180, 120, 40)).save(out, "PNG")
    return out.getvalue()


_PICTURE = _picture()


@dataclass
class Seen:
    """What the writers saw."""

    acknowledged: dict[str, str] = field(default_factory=dict)
    promised: dict[str, int] = field(default_factory=dict)
    """Of each trial that a page read, in how many places it says it has a reading: sent, or kept in the browser."""
    turned_away: list[str] = field(default_factory=list)
    """What was answered that should not be: neither that it is stored nor that nobody is there or signed in."""
    refused: list[str] = field(default_factory=list)
    retries: int = 0
    last_answer: float | None = None
    kills: list[tuple[str, float]] = field(default_factory=lambda: [("the start", 0.0)])
    lock: threading.Lock = field(default_factory=threading.Lock)

    def answered(self, write: str, what: str) -> None:
        """One more acknowledged write."""
        with self.lock:
            self.acknowledged[write] = what
            silent = time.monotonic() - (self.last_answer or time.monotonic())
            name, worst = self.kills[-1]
            self.kills[-1] = (name, max(worst, silent))
            self.last_answer = time.monotonic()

    def killed(self, name: str) -> None:
        """What was killed now; silence from here on is put down to it."""
        with self.lock:
            self.kills.append((name, 0.0))

    def silences(self) -> dict[str, list[float]]:
        """After each kind of kill the longest times without an answer to anybody, the shortest first [s]."""
        return {name: sorted(silent for one, silent in self.kills if one == name) for name in {one for one, _ in self.kills}}

    @property
    def longest(self) -> tuple[float, str]:
        """The longest time without an answer [s], and after what."""
        name, silent = max(self.kills, key=lambda one: one[1])
        return silent, name


class Writer:
    """A bench that writes one thing after another, each until it is answered."""

    def __init__(self, address: str, connect: Callable[[], http.client.HTTPConnection], seen: Seen, *, name: str, password: str) -> None:
        self.address, self.connect, self.seen = address, connect, seen
        self.name, self.password = name, password
        self.cookies: dict[str, str] = {}
        self.connection: http.client.HTTPConnection | None = None
        self.ended = threading.Event()

    def call(self, method: str, path: str, body: Any = None, *, form: bytes = b"", kind: str = "application/json") -> tuple[int, Any]:
        """One request; OSError or HTTPException when nobody answers."""
        if self.connection is None:
            self.connection = self.connect()
        headers = {"Content-Type": kind, "Referer": self.address, "X-CSRFToken": self.cookies.get("csrftoken", "")}
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
        until = time.monotonic() + PATIENCE_S
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
            elif status not in (0, *AWAY):
                self.seen.turned_away.append(f"{status} to {write} at {path}: {answer}")
            self.seen.retries += 1
            time.sleep(0.2)
        self.seen.refused.append(f"{what}: no answer in {PATIENCE_S:.0f} s")
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
                status, _ = self.call("POST", "/sign-in", {"username": self.name, "password": self.password})
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

    def begin_trial(self) -> tuple[str, str] | None:
        """A new job whose bench has its first trial: both ids; None when it was refused."""
        job = str(uuid.uuid4())
        card = {"customer": "Torture", "vehicle": "Van", "layout": "rear_drive", "axle": "rear", "family": "corrie-ls19", "use": "road"}
        self.surely("job", "POST", "/jobs", _new(id=job, complaint="Howl", **card))
        self.surely("gear set", "POST", f"/work/{job}/gear-set", _new(pinion_teeth=10, ring_teeth=41))
        stacks = {"ring_side": "4.60 mm", "far_side": "4.50 mm", "depth": "0.80 mm"}
        bench = self.surely("trial", "POST", f"/work/{job}/trials", _new(after=0, **stacks))
        return (job, bench["trials"][-1]["id"]) if bench and bench.get("trials") else None

    def _one_job(self) -> None:
        begun = self.begin_trial()
        if begun is None:
            return
        job, trial = begun
        for place in range(24):
            if self.ended.is_set():
                return
            self.surely("reading", "POST", f"/trials/{trial}/readings", _new(angle_deg=45.0 * (place % 8), typed="0.15 mm"))
            if place % 6 == 0:
                self.surely("picture", "POST", f"/work/{job}/parts/photos", _new(key="cover"), picture=True)
        self.surely("step", "POST", f"/work/{job}/steps/complaint/pass", _new())


def _new(**more: Any) -> dict[str, Any]:
    return {"client_id": str(uuid.uuid4()), **more}
