"""Beside each Patroni: a standby that cannot come up is made again from the one that leads, without a hand.

A standby that is killed while its files are being wound back to another timeline, or copied, can be left with files that no start gets
through; Patroni tries the same start for ever. What it has is a copy: as long as a database leads, it can be fetched again. Only this
machine's own standby is looked after, and never while nothing leads.

    python3 heal.py NAME REST-ADDRESS PASSWORD-FILE [SECONDS OF PATIENCE]
"""

from __future__ import annotations

import base64
import json
import sys
import time
import urllib.error
import urllib.request
from pathlib import Path
from typing import Any

LOOKS_EVERY_S = 3.0
PATIENCE_S = 60.0
WELL = ("streaming", "running", "creating replica")


class Watch:
    """How long this standby has not been well."""

    def __init__(self, name: str, patience_s: float = PATIENCE_S) -> None:
        self.name, self.patience_s = name, patience_s
        self.since: float | None = None

    def is_stuck(self, members: list[dict[str, Any]], now: float) -> bool:
        """Whether it has been away for too long while another one leads; asked again after the same patience."""
        own = next((one for one in members if one["name"] == self.name), None)
        leads = any(one["role"] == "leader" and one["state"] == "running" and one["name"] != self.name for one in members)
        if own is None or not leads or own["state"] in WELL:
            self.since = None
            return False
        self.since = now if self.since is None else self.since
        if now - self.since < self.patience_s:
            return False
        self.since = now
        return True


def asked(request: str | urllib.request.Request) -> Any:
    """What Patroni answers; None when it does not."""
    try:
        with urllib.request.urlopen(request, timeout=10) as reply:  # noqa: S310 - Patroni's own address on this machine
            return json.loads(reply.read())
    except (urllib.error.URLError, OSError, ValueError):
        return None


def main(name: str, address: str, password_file: str, patience_s: str = str(PATIENCE_S)) -> None:
    """Look, for ever."""
    watch = Watch(name, float(patience_s))
    while True:
        told = asked(f"{address}/cluster")
        if told is not None and watch.is_stuck(told.get("members", []), time.monotonic()):
            print(f"{name} could not come up for {watch.patience_s:.0f} s: it is made again from the one that leads", flush=True)
            word = base64.b64encode(f"patroni:{Path(password_file).read_text().strip()}".encode()).decode()
            headers = {"Content-Type": "application/json", "Authorization": f"Basic {word}"}
            asked(urllib.request.Request(f"{address}/reinitialize", b'{"force": true}', headers))  # noqa: S310
        time.sleep(LOOKS_EVERY_S)


if __name__ == "__main__":
    main(*sys.argv[1:])
