"""./amber cluster: the whole of it on loopback with the demo, until Ctrl-C; or written to while its parts are killed."""

from __future__ import annotations

import argparse
import os
import subprocess
import sys
import tempfile
from collections.abc import Sequence
from pathlib import Path

from amber_cli import install
from amber_cli.cluster import programs
from amber_cli.cluster.layout import Layout
from amber_cli.keeping import Program, end_with_parent, heed_signals, keep
from amber_cli.paths import PYTHON, ROOT
from amber_cli.say import step


def main(arguments: Sequence[str]) -> int:
    """Do what the words say."""
    parser = argparse.ArgumentParser(prog="./amber cluster", description="The application past one machine, rehearsed on this one.")
    words = parser.add_subparsers(dest="word", metavar="WORD")
    parser.add_argument("--port", type=int, help="where people find it (a free port)")
    torture = words.add_parser("torture", help="write to it while its parts are killed; then look for every acknowledged write")
    torture.add_argument("--minutes", type=float, default=10.0, help="how long (10)")
    torture.add_argument("--kills", type=int, default=0, help="so many kills instead")
    torture.add_argument("--seed", type=int, default=1, help="the same kills in the same order")
    chosen = parser.parse_args(arguments)
    heed_signals()
    folder = Path(tempfile.mkdtemp(prefix="amber-cluster-", dir="/var/tmp"))
    layout = Layout.new(folder, front=chosen.port)
    failed = 0
    try:
        killed = chosen.word == "torture"  # a browser is among what is killed
        install.system("test" if killed else "run")
        install.python(for_tests=killed)
        install.web()
        programs.install_all(layout)
        layout.write()
        with programs.running(layout) as parts:
            if killed:
                failed = _torture(layout, parts, chosen)
                return failed
            _announce(layout)
            return keep(parts)
    finally:
        programs.end_leftovers(layout)
        if failed:
            step(f"The logs of its programs are kept in {layout.keep_logs()}")
        layout.remove()


def _announce(layout: Layout) -> None:
    leader = layout.leader()
    print(
        f"""
  Amber Pinion is at {layout.address}
  {leader.name if leader else "No database"} leads, {layout.synchronous() or "none"} holds every commit with it.
  Its files are in {layout.folder}, as filled in from deploy/cluster; they are removed at the end.
  Ctrl-C stops it and everything it started.""",
        file=sys.stderr,
        flush=True,
    )


def _torture(layout: Layout, parts: list[Program], chosen: argparse.Namespace) -> int:
    """Written to and killed from another process, while this one goes on starting again what dies."""
    minutes = 24 * 60.0 if chosen.kills else chosen.minutes
    kills = chosen.kills or 1_000_000
    step(f"{chosen.kills} kills, seed {chosen.seed}" if chosen.kills else f"Killing for {minutes:g} minutes, seed {chosen.seed}")
    env = {**os.environ, "PYTHONPATH": f"{ROOT}:{ROOT / 'cli'}", "AMBER_ROOT": str(ROOT)}
    asked = [str(PYTHON), "-m", "benchmarks.torture_cluster", str(layout.folder), str(kills), str(minutes), str(chosen.seed)]
    with subprocess.Popen(asked, cwd=ROOT, env=env, preexec_fn=end_with_parent) as writing:
        try:
            keep(parts, until=lambda: writing.poll() is not None)
        finally:
            writing.terminate()
    return writing.returncode
