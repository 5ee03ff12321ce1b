"""Whether a standby fetches a history from the archive: not one of a timeline that nobody leads on.

A primary that died just after it took over has begun a timeline, and the archive has its history; nothing was acknowledged on it where
another one leads on without it. A standby that found that history would want to follow it, and no start would get through. So a history
beyond the timeline of the one that leads is not there for a standby. While nobody leads, neither is one beyond the newest timeline that
this database has log of itself: the one that has to lead again may be the very one that must not follow it. Whoever takes over itself is
shown all of them, and takes a number that is still free.

    python3 restore.py NAME REST-ADDRESS FILE        # 0: fetch it; run by PostgreSQL in its data folder
"""

from __future__ import annotations

import json
import re
import sys
import urllib.error
import urllib.request
from pathlib import Path
from typing import Any

NOT_THERE = 1
_HISTORY = re.compile(r"([0-9A-F]{8})\.history")
_SEGMENT = re.compile(r"([0-9A-F]{8})[0-9A-F]{16}")


def is_left_behind(file: str, name: str, members: list[dict[str, Any]], own: int | None) -> bool:
    """Whether a file is the history of a timeline beyond that of the one that leads; beyond `own`, while none does that is up."""
    found = _HISTORY.fullmatch(file)
    if found is None or not members:
        return False
    leads = next((one for one in members if one.get("role") == "leader" and one.get("state") == "running"), None)
    if leads is not None and leads["name"] == name:
        return False
    last = own if leads is None else leads.get("timeline")
    return last is not None and int(found[1], 16) > int(last)


def newest_timeline(log: Path) -> int | None:
    """The newest timeline that there is log of in a folder; histories alone, which may be others', do not count."""
    return max((int(found[1], 16) for one in log.glob("*") if (found := _SEGMENT.fullmatch(one.name))), default=None)


def members_of(address: str) -> list[dict[str, Any]]:
    """What this node's Patroni knows of all; nothing when it does not answer."""
    try:
        with urllib.request.urlopen(f"{address}/cluster", timeout=5) as reply:  # noqa: S310 - Patroni's own address on this machine
            found: list[dict[str, Any]] = json.loads(reply.read()).get("members", [])
            return found
    except (urllib.error.URLError, OSError, ValueError):
        return []


def put_aside(log: Path, file: str, own: int | None) -> None:
    """Out of the way with a copy of such a history that lies here already, as long as there is no log of its timeline beside it."""
    if own is not None and (log / file).exists() and int(file[:8], 16) > own:
        (log / file).rename(log / f"left-behind-{file}")


def main(name: str, address: str, file: str) -> int:
    """0 when it may be fetched, else as a command ends that found nothing."""
    log = Path("pg_wal")
    own = newest_timeline(log)
    if not is_left_behind(file, name, members_of(address), own):
        return 0
    put_aside(log, file, own)
    return NOT_THERE


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:]))
