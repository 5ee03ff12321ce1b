"""What the command tells the person, always on standard error, and running other programs quietly."""

from __future__ import annotations

import subprocess
import sys
from collections.abc import Mapping, Sequence
from pathlib import Path


class Failed(Exception):
    """Something did not work: what, and what to do."""


def step(text: str) -> None:
    """One line of progress."""
    print(f"  {text}", file=sys.stderr, flush=True)


def run(command: Sequence[str | Path], *, what: str, mend: str, cwd: Path | None = None, env: Mapping[str, str] | None = None) -> str:
    """Run a program; its output is shown only when it fails.

    Raises
    ------
    Failed
        Saying what failed and what to do.
    """
    try:
        done = subprocess.run(
            [str(part) for part in command], cwd=cwd, env=env, stdin=subprocess.DEVNULL, capture_output=True, text=True, check=False
        )
    except OSError as wrong:
        raise Failed(f"{what} failed: {wrong}. {mend}") from None
    if done.returncode != 0:
        tail = "\n".join((done.stdout + done.stderr).strip().splitlines()[-25:])
        raise Failed(f"{what} failed (exit status {done.returncode}). {mend}\n{tail}")
    return done.stdout
