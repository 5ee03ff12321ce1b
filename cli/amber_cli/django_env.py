"""The environment Django runs in."""

from __future__ import annotations

import os
import secrets
from pathlib import Path
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from amber_cli.paths import PYTHON, ROOT, SERVER, STATE

MIGRATE = ("migrate", "--noinput", "-v", "0", "--skip-checks")
"""Django's checks load the whole API, which doubles the time of a start; the tests have made them."""


def environment(*, mode: str, database_url: str, **more: str) -> dict[str, str]:
    """A copy of the environment with what the settings read."""
    path = os.pathsep.join(str(ROOT / part) for part in ("server", "core", "cli", "."))
    wanted = {
        "AMBER_MODE": mode,
        "AMBER_SECRET_KEY": _secret_key(),
        "AMBER_ALLOWED_HOSTS": "127.0.0.1,localhost,[::1]",
        "DATABASE_URL": database_url,
        "DJANGO_SETTINGS_MODULE": "config.settings",
        "PYTHONPATH": path,
    }
    if mode == "demo":
        wanted["AMBER_TIME_ZONE"] = os.environ.get("AMBER_TIME_ZONE") or this_machines_zone()
    return {**os.environ, **wanted, **more}


def this_machines_zone() -> str:
    """The zone of Debian's /etc/timezone, so that printed times are those on the wall."""
    try:
        zone = Path("/etc/timezone").read_text(encoding="utf-8").strip()
        ZoneInfo(zone)
    except (OSError, ValueError, ZoneInfoNotFoundError):
        return "UTC"
    return zone or "UTC"


def serving_environment() -> dict[str, str]:
    """For ./amber serve: everything comes from outside, nothing is made up."""
    return {**os.environ, **serving()}


def serving() -> dict[str, str]:
    """What every serving Django has in its environment, whatever else it has."""
    path = os.pathsep.join(str(ROOT / part) for part in ("server", "core", "cli"))
    return {"AMBER_MODE": "serve", "DJANGO_SETTINGS_MODULE": "config.settings", "PYTHONPATH": path}


def _secret_key() -> str:
    """A key of this checkout's own, made once and kept out of the repository."""
    place = STATE / "secret-key"
    if not place.exists():
        STATE.mkdir(exist_ok=True)
        place.touch(mode=0o600)
        place.write_text(secrets.token_urlsafe(60))
    return place.read_text().strip()


def manage(*arguments: str) -> list[str | Path]:
    """A Django command line."""
    return [PYTHON, SERVER / "manage.py", *arguments]
