"""Whether a standby fetches a history from the archive: not one of a timeline that nobody leads on.

A primary that died just after it took over has begun a timeline, and the archive has its history; nothing was acknowledged on it where
another one leads on without it. A standby that found that history would want to follow it, and no start would get through. So a history
beyond the timeline of the one that leads is not there for a standby. Whoever takes over itself is shown all of them, and takes a number
that is still free.

    python3 restore.py NAME REST-ADDRESS FILE        # 0: fetch it
"""

from __future__ import annotations

import json
import re
import sys
import urllib.error
import urllib.request
from typing import Any

NOT_THERE = 1
_HISTORY = re.compile(r"([0-9A-F]{8})\.history")


def is_left_behind(file: str, name: str, members: list[dict[str, Any]]) -> bool:
    """Whether a file is the history of a timeline beyond that of another node, which leads."""
    found = _HISTORY.fullmatch(file)
    leads = next((one for one in members if one.get("role") == "leader" and one.get("state") == "running"), None)
    if found is None or leads is None or leads["name"] == name or "timeline" not in leads:
        return False
    return int(found[1], 16) > int(leads["timeline"])


def members_of(address: str) -> list[dict[str, Any]]:
    """What this node's Patroni knows of all; nothing when it does not answer."""
    try:
        with urllib.request.urlopen(f"{address}/cluster", timeout=5) as reply:  # noqa: S310 - Patroni's own address on this machine
            found: list[dict[str, Any]] = json.loads(reply.read()).get("members", [])
            return found
    except (urllib.error.URLError, OSError, ValueError):
        return []


def main(name: str, address: str, file: str) -> int:
    """0 when it may be fetched, else as a command ends that found nothing."""
    return NOT_THERE if is_left_behind(file, name, members_of(address)) else 0


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:]))
