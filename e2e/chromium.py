"""Debian's Chromium without a screen: how it is started, and how it is killed."""

from __future__ import annotations

import os
import signal
from pathlib import Path
from typing import Any

_ARGUMENTS = [
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-dev-shm-usage",
    "--use-fake-device-for-media-stream",
    "--use-fake-ui-for-media-stream",  # nobody is there to allow it
]
LAUNCHED: dict[str, Any] = {
    "executable_path": "/usr/bin/chromium-headless-shell",
    "args": [*(["--no-sandbox"] if os.geteuid() == 0 else []), *_ARGUMENTS],
}


def kill(profile: str) -> None:
    """As when a phone's battery comes out.

    Raises
    ------
    LookupError
        When no browser has this profile open.
    """
    found = [int(place.name) for place in Path("/proc").glob("[0-9]*") if _is_browser(place, profile)]
    if not found:
        raise LookupError("no browser is open just now")
    for one in found:
        os.kill(one, signal.SIGKILL)


def _is_browser(place: Path, profile: str) -> bool:
    try:
        command = (place / "cmdline").read_bytes().decode(errors="replace")
    except OSError:
        return False
    return f"--user-data-dir={profile}" in command and "--type=" not in command
