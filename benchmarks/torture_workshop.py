"""./amber torture: a workshop of its own on one machine, written to through TLS while its parts are killed."""

from __future__ import annotations

import http.client
import os
import signal
import ssl
import sys
from collections.abc import Callable
from functools import partial
from pathlib import Path

from amber_cli.postgres import postmaster, stop_at_once
from amber_cli.workshop.database import DATABASE, HouseCluster
from amber_cli.workshop.home import Home
from benchmarks.torture import Way, kill, masters, pids, queue_workers, torment
from benchmarks.writers import Seen, Writer


class Workshop:
    """One machine's parts."""

    def __init__(self, home: Home, password: str) -> None:
        self.home, self.password, self.cluster = home, password, HouseCluster(home)

    def writer(self, seen: Seen) -> Writer:
        """One more person."""
        settings = self.home.settings
        trusted = ssl.create_default_context(cafile=str(self.home.tls / "house.crt"))
        host, port = settings.hosts[0], settings.https_port
        connect = partial(http.client.HTTPSConnection, host, port, context=trusted, timeout=30)
        return Writer(f"https://{host}:{port}/", connect, seen, name="greta", password=self.password)

    def ways(self) -> dict[str, Way]:
        """What can be killed, and how."""
        web = f"--bind 127.0.0.1:{self.home.settings.web_port}"

        return {
            "a web worker": lambda chosen: kill([one for master in masters(web) for one in pids(web, parent=master)], chosen),
            "the web server's master": lambda chosen: kill(masters(web), chosen),
            "the queue's worker": lambda chosen: kill(queue_workers(self.home.database_url(DATABASE)), chosen),
            "PostgreSQL, immediately": lambda chosen: stop_at_once(self.cluster.data, wait=False),
            "PostgreSQL, kill -9": lambda chosen: os.kill(postmaster(self.cluster.data), signal.SIGKILL),
            "a connection's process": lambda chosen: kill(pids("postgres: amber_app", parent=postmaster(self.cluster.data)), chosen),
            "nginx's master": lambda chosen: kill(pids(f"nginx: master process nginx -c {self.home.folder}"), chosen),
        }

    def settle(self) -> str:
        """The writers' last answers came from it: it is there."""
        return ""

    def databases(self) -> dict[str, Callable[[str], str]]:
        """Its one database."""
        return {"the database": partial(self.cluster.sql, database=DATABASE)}


def main(arguments: list[str]) -> int:
    """The workshop's folder, the number of kills, the seed; the foreman's password on standard input."""
    place = Workshop(Home(Path(arguments[0])), sys.stdin.readline().strip())
    return torment(place, kills=int(arguments[1]), minutes=24 * 60.0, seed=int(arguments[2]))


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
