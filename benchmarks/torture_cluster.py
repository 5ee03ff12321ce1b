"""./amber cluster torture: the cluster on loopback, written to through its door while every kind of its parts is killed or stands still."""

from __future__ import annotations

import http.client
import os
import random
import signal
import sys
import threading
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path

from amber_cli.cluster.layout import ADDRESS, DATABASE, Layout, Node
from amber_cli.postgres import stop_at_once
from amber_cli.say import Failed
from benchmarks.torture import Way, kill, masters, pids, queue_workers, torment
from benchmarks.writers import Seen, Writer

_DEMO = ("greta", "amber-demo-bench")
_CUT_S = 6.0
_STILL_S = 30.0
_BACK_WITHIN_S = 300.0


class Cluster:
    """All its parts."""

    def __init__(self, layout: Layout) -> None:
        self.layout = layout
        self._still: list[threading.Timer] = []

    def writer(self, seen: Seen) -> Writer:
        """One more person, who waits for an answer as long as a browser would."""
        connect = partial(http.client.HTTPConnection, ADDRESS, self.layout.front, timeout=30)
        return Writer(self.layout.address, connect, seen, name=_DEMO[0], password=_DEMO[1])

    def ways(self) -> dict[str, Way]:
        """What can be killed, and how."""
        layout = self.layout
        webs = [f"--bind {ADDRESS}:{port}" for port in layout.webs]
        return {
            "a web worker": lambda chosen: kill(
                [one for web in webs for master in masters(web) for one in pids(web, parent=master)], chosen
            ),
            "a web server's master": lambda chosen: kill([one for web in webs for one in masters(web)], chosen),
            "a queue worker": lambda chosen: kill(queue_workers(layout.direct_url), chosen),
            "the primary, kill -9": lambda chosen: os.kill(self._leader().postmaster(), signal.SIGKILL),
            "the primary, immediately": lambda chosen: stop_at_once(self._leader().data, wait=False),
            "the synchronous standby, kill -9": lambda chosen: os.kill(self._synchronous().postmaster(), signal.SIGKILL),
            "a connection of the primary": lambda chosen: kill(
                pids("postgres: amber: amber_app", parent=self._leader().postmaster()), chosen
            ),
            "the primary's Patroni": lambda chosen: kill(_patroni(self._leader()), chosen),
            "the primary with its Patroni": self._both,
            "a member of etcd": lambda chosen: kill([one for node in layout.nodes for one in _etcd(node)], chosen),
            "a pooler": lambda chosen: kill(pids(f"pgbouncer -q {layout.folder}"), chosen),
            "HAProxy": lambda chosen: kill(masters(f"haproxy -db -f {layout.folder}"), chosen),
            f"no way to the database for {_CUT_S:.0f} s": lambda chosen: self._stand_still(pids(f"pgbouncer -q {layout.folder}"), _CUT_S),
            f"the primary's machine stands still for {_STILL_S:.0f} s": lambda chosen: self._stand_still(
                _machine(self._leader()), _STILL_S
            ),
        }

    def _leader(self) -> Node:
        found = self.layout.leader()
        if found is None:
            raise LookupError("nobody leads just now")
        return found

    def _synchronous(self) -> Node:
        return {one.name: one for one in self.layout.nodes}[self.layout.synchronous()]

    def _both(self, chosen: random.Random) -> None:
        leader = self._leader()
        kill(_patroni(leader), chosen)
        os.kill(leader.postmaster(), signal.SIGKILL)

    def _stand_still(self, found: list[int], seconds: float) -> None:
        """Stopped, so that nothing answers and no connection ends; then it goes on as if nothing had been."""
        if not found:
            raise LookupError("nothing runs there just now")
        _signal(found, signal.SIGSTOP)
        later = threading.Timer(seconds, _signal, (found, signal.SIGCONT))
        later.start()
        self._still.append(later)

    def settle(self) -> str:
        """Until every database is up and has all that the one that leads has."""
        for one in self._still:
            one.join()
        began = time.monotonic()
        while not self._level():
            if time.monotonic() - began > _BACK_WITHIN_S:
                return f"not every database came back within {_BACK_WITHIN_S:.0f} s: {self.layout.members()}"
            time.sleep(0.5)
        return ""

    def _level(self) -> bool:
        layout, leader = self.layout, self.layout.leader()
        if leader is None or layout.synchronous() != layout.sql(leader, "SHOW synchronous_standby_names"):
            return False
        try:
            wanted = layout.sql(leader, "SELECT pg_current_wal_lsn()")
            others = [one for one in layout.nodes if one is not leader]
            return all(layout.sql(one, f"SELECT pg_last_wal_replay_lsn() >= '{wanted}'::pg_lsn") == "t" for one in others)
        except Failed:
            return False

    def databases(self) -> dict[str, Callable[[str], str]]:
        """All three."""
        return {one.name: partial(self.layout.sql, one, database=DATABASE) for one in self.layout.nodes}


def _patroni(node: Node) -> list[int]:
    return pids(f"patroni {node.folder}")


def _etcd(node: Node) -> list[int]:
    return pids(f"etcd --config-file={node.folder}")


def _machine(node: Node) -> list[int]:
    """All that would run on the machine of one database."""
    postmaster = node.postmaster()
    return [*_etcd(node), *_patroni(node), postmaster, *pids("", parent=postmaster)]


def _signal(found: list[int], number: int) -> None:
    for one in found:
        try:
            os.kill(one, number)
        except ProcessLookupError:
            continue


def main(arguments: list[str]) -> int:
    """The cluster's folder, most kills, most minutes, the seed."""
    place = Cluster(Layout.of(Path(arguments[0])))
    return torment(place, kills=int(arguments[1]), minutes=float(arguments[2]), seed=int(arguments[3]))


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
