"""Installing what is missing: Debian packages, Python and Node dependencies from their lock files, the built front end."""

from __future__ import annotations

import contextlib
import hashlib
import os
import re
import shutil
import subprocess
from collections.abc import Iterable
from pathlib import Path
from typing import Literal

from amber_cli.paths import PYTHON, ROOT, STATE, VENV, WEB
from amber_cli.say import Failed, run, step

POSTGRES_BIN = Path("/usr/lib/postgresql/15/bin")
_RUNTIME = ["libpango-1.0-0", "libpangoft2-1.0-0", "libharfbuzz-subset0"]
WORKSHOP = ["nginx-light", "pgbackrest", "openssl"]
CLUSTER = ["etcd-server", "haproxy", "pgbouncer", "pgbackrest"]
_TEST = ["chromium-headless-shell", "chromium-common", "poppler-utils", *WORKSHOP, *CLUSTER]
"""The shell does not start without files of chromium-common, which it does not depend on."""
_STARTS_BY_ITSELF = {"nginx-light": "nginx", "etcd-server": "etcd", "haproxy": "haproxy", "pgbouncer": "pgbouncer"}
"""Packages that Debian starts at once, on ports that ours are about to take, and the names of their services."""


Purpose = Literal["compute", "run", "test"]


def system(purpose: Purpose, more: Iterable[str] = ()) -> list[str]:
    """Debian packages that are missing for this purpose, and what a command needs beside them; those that were installed.

    Raises
    ------
    Failed
        Naming the packages when they cannot be installed from here.
    """
    wanted = {"compute": [], "run": _RUNTIME, "test": [*_RUNTIME, *_TEST]}[purpose]
    missing = [name for name in dict.fromkeys((*wanted, *more)) if not _is_installed(name)]
    if purpose != "compute" and not (POSTGRES_BIN / "initdb").exists():
        missing.append("postgresql-15")
    try:
        import ensurepip  # noqa: F401
    except ImportError:
        missing.append("python3-venv")
    if not missing:
        return []
    names = " ".join(missing)
    step(f"Installing Debian packages: {names}")
    mend = f"Install them by hand: sudo apt-get install --no-install-recommends {names}"
    as_root = _as_root(mend)
    env = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    run([*as_root, "apt-get", "update", "-q"], what="apt-get update", mend=mend, env=env)
    install = ["env", "DEBIAN_FRONTEND=noninteractive", "apt-get", "install", "-y", "-q", "--no-install-recommends", *missing]
    run([*as_root, *install], what="apt-get install", mend=mend, env=env)
    _stop_what_started(as_root, missing)
    return missing


def _stop_what_started(as_root: list[str], installed: list[str]) -> None:
    """What Debian started with a package that was just installed; a service that was there before is left alone."""
    for service in (_STARTS_BY_ITSELF[name] for name in installed if name in _STARTS_BY_ITSELF):
        for stop in (["systemctl", "disable", "--now", service], ["service", service, "stop"]):
            with contextlib.suppress(OSError):
                subprocess.run([*as_root, *stop], capture_output=True, check=False)


def _is_installed(name: str) -> bool:
    query = ["dpkg-query", "-W", "-f", "${db:Status-Status}", name]
    found = subprocess.run(query, capture_output=True, text=True, check=False)
    return found.stdout.strip() == "installed"


def _as_root(mend: str) -> list[str]:
    if os.geteuid() == 0:
        return []
    if shutil.which("sudo") is None:
        raise Failed(f"Some Debian packages are missing, and there is no sudo. {mend}")
    return ["sudo"]


def python(*, for_tests: bool) -> None:
    """The virtual environment, from the lock file with hashes."""
    name = "requirements-dev.txt" if for_tests else "requirements.txt"
    stamp = VENV / ".amber-stamp"
    standing = stamp.read_text() if stamp.exists() else ""
    if f"{name} {_digest([ROOT / name])}" in standing:
        return
    mend = "Check the connection to the package registry and start again; nothing else is touched."
    uv = STATE / "bootstrap" / "bin" / "uv"
    if not uv.exists():
        step("Preparing the Python installer")
        run(["python3", "-m", "venv", str(STATE / "bootstrap")], what="Making a virtual environment", mend="Is python3-venv installed?")
        pip: list[str | Path] = [
            STATE / "bootstrap" / "bin" / "pip",
            "install",
            "-q",
            "--require-hashes",
            "-r",
            ROOT / "requirements-bootstrap.txt",
        ]
        run(pip, what="Installing the installer", mend=mend)
    step("Installing Python packages from the lock file")
    stamp.unlink(missing_ok=True)
    if not PYTHON.exists():
        run(
            [uv, "venv", "-q", "--python", shutil.which("python3") or "python3", VENV],
            what="Making .venv",
            mend="Remove .venv and start again.",
        )
    env = {**_plain(), "VIRTUAL_ENV": str(VENV)}
    run(
        [uv, "pip", "sync", "-q", "--require-hashes", "--compile-bytecode", ROOT / name],
        what="Installing Python packages",
        mend=mend,
        env=env,
    )
    lines = [f"requirements.txt {_digest([ROOT / 'requirements.txt'])}"]
    if for_tests:
        lines.append(f"{name} {_digest([ROOT / name])}")
    stamp.write_text("\n".join(lines))


def beside(lock: Path, folder: Path) -> None:
    """Packages of a lock file of their own, in a folder that is no part of .venv: for programs that run as another user."""
    step(f"Installing the packages of {lock.relative_to(ROOT)}")
    uv = STATE / "bootstrap" / "bin" / "uv"
    command: list[str | Path] = [uv, "pip", "install", "-q", "--python", PYTHON, "--require-hashes", "--target", folder, "-r", lock]
    run(command, what=f"Installing {lock.name}", mend="Check the connection to the package registry and start again.", env=_plain())


def _plain() -> dict[str, str]:
    return {key: value for key, value in os.environ.items() if key != "PYTHONPATH"}


def node() -> None:
    """Node packages, from the lock file."""
    _check_node()
    stamp, digest = WEB / "node_modules" / ".amber-stamp", _digest([WEB / "package-lock.json"])
    if stamp.exists() and stamp.read_text() == digest:
        return
    step("Installing Node packages from the lock file")
    mend = "Check the connection to the package registry, remove web/node_modules and start again."
    run(["npm", "ci", "--no-fund", "--no-audit"], what="npm ci", mend=mend, cwd=WEB)
    stamp.write_text(digest)


def _check_node() -> None:
    if shutil.which("node") is None or shutil.which("npm") is None:
        raise Failed("Node 20 or later with npm is needed to build the front end: install it and start again.")
    found = run(["node", "--version"], what="node --version", mend="Is Node installed?")
    version = re.match(r"v(\d+)", found.strip())
    if version is None or int(version[1]) < 20:
        raise Failed(f"Node {found.strip()} is too old: 20 or later is needed.")


def web() -> None:
    """The front end, built when its sources changed."""
    sources = [path for path in WEB.rglob("*") if path.is_file() and not {"node_modules", "dist"} & set(path.relative_to(WEB).parts)]
    stamp, digest = WEB / "dist" / ".amber-stamp", _digest(sources)
    if stamp.exists() and stamp.read_text() == digest:
        return
    node()
    step("Building the front end")
    run(["npm", "run", "build"], what="Building the front end", mend="Run npm run build in web/ to see more.", cwd=WEB)
    run(
        [PYTHON, "-m", "whitenoise.compress", "-q", WEB / "dist"], what="Compressing the front end", mend="Remove web/dist and start again."
    )
    stamp.write_text(digest)


def _digest(paths: Iterable[Path]) -> str:
    found = hashlib.sha256()
    for path in sorted(paths):
        found.update(str(path.relative_to(ROOT)).encode())
        found.update(path.read_bytes())
    return found.hexdigest()
