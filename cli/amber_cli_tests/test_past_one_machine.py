"""The cluster as it is started by hand: reads from a standby, writes that wait for one, a primary that is killed, all else killed."""

from __future__ import annotations

import http.client
import json
import os
import re
import shutil
import signal
import subprocess
import threading
import time
import uuid
from collections.abc import Callable
from importlib.util import module_from_spec, spec_from_file_location
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any
from unittest import TestCase

from amber_cli.cluster.layout import ADDRESS, DATABASE, DEPLOY, Layout, Node, asked
from amber_cli.paths import PYTHON, ROOT
from amber_cli.postgres import as_database_user, free_port, give_away
from amber_cli.say import Failed

_READY_WITHIN_S = 420.0
_BACK_WITHIN_S = 120.0


class Browser:
    """Signed in as the demo's foreman, through the door."""

    def __init__(self, port: int) -> None:
        self.port = port
        self.cookies: dict[str, str] = {}
        self.read_from: str | None = None

    def call(self, method: str, path: str, body: Any = None, *, timeout: float = 60.0) -> tuple[int, Any]:
        """One request on a connection of its own; OSError when nobody answers in time."""
        connection = http.client.HTTPConnection(ADDRESS, self.port, timeout=timeout)
        headers = {"Content-Type": "application/json", "Referer": f"http://{ADDRESS}:{self.port}/"}
        headers["X-CSRFToken"] = self.cookies.get("csrftoken", "")
        headers["Cookie"] = "; ".join(f"{name}={value}" for name, value in self.cookies.items())
        try:
            connection.request(method, f"/api/v1{path}", None if body is None else json.dumps(body), headers)
            reply = connection.getresponse()
            text = reply.read()
        finally:
            connection.close()
        for cookie in reply.headers.get_all("Set-Cookie") or []:
            name, value = cookie.split(";")[0].split("=", 1)
            self.cookies[name] = value
        self.read_from = reply.headers.get("X-Amber-Read")
        return reply.status, json.loads(text) if text else None

    def sign_in(self) -> None:
        self.call("GET", "/csrf")
        assert self.call("POST", "/sign-in", {"username": "greta", "password": "amber-demo-bench"})[0] == 200

    def floor_read_from(self) -> str | None:
        """Where the Floor comes from for somebody who has not written anything for a while."""
        self.cookies.pop("amber_wrote", None)
        assert self.call("GET", "/floor")[0] == 200
        return self.read_from


class PastOneMachine(TestCase):
    """One cluster for all of it: its start takes a minute."""

    started: subprocess.Popen[str]
    layout: Layout

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        env = {key: value for key, value in os.environ.items() if not key.startswith(("AMBER_", "DJANGO_", "DATABASE_", "PYTHON"))}
        cls.port = free_port(15900)
        command = [str(ROOT / "amber"), "cluster", "--port", str(cls.port)]
        cls.started = subprocess.Popen(command, stderr=subprocess.PIPE, text=True, env=env)
        cls.addClassCleanup(cls._end)
        assert cls.started.stderr is not None
        lines: list[str] = []
        late = threading.Timer(_READY_WITHIN_S, cls.started.kill)
        late.start()
        for line in cls.started.stderr:
            lines.append(line)
            if found := re.search(r"Its files are in (\S+),", line):
                cls.layout = Layout.of(Path(found[1]))
                break
        late.cancel()
        if not hasattr(cls, "layout"):
            raise AssertionError("".join(lines))
        cls.said = threading.Thread(target=cls.started.stderr.read, daemon=True)
        cls.said.start()

    @classmethod
    def _end(cls) -> None:
        cls.started.send_signal(signal.SIGINT)
        cls.started.wait(timeout=120)
        cls.said.join(timeout=10)
        assert cls.started.stderr is not None
        cls.started.stderr.close()

    def setUp(self) -> None:
        self.browser = Browser(self.port)
        self.until(self.level)
        self.browser.sign_in()

    def until(self, holds: Callable[[], bool], within_s: float = _BACK_WITHIN_S) -> None:
        began = time.monotonic()
        while not holds():
            self.assertLess(time.monotonic() - began, within_s, f"not within {within_s:.0f} s: {self.layout.members()}")
            time.sleep(0.2)

    def level(self) -> bool:
        """A primary, a standby that every commit waits for and the database knows as such, and everybody up."""
        leader, synchronous = self.layout.leader(), self.layout.synchronous()
        states = [state for _, state in self.layout.members().values()]
        try:
            known = leader is not None and self.layout.sql(leader, "SHOW synchronous_standby_names") == synchronous
        except Failed:
            return False
        return known and synchronous != "" and states.count("streaming") == 2

    def leader(self) -> Node:
        found = self.layout.leader()
        assert found is not None
        return found

    def card(self) -> dict[str, Any]:
        usual = {"customer": "Cluster", "vehicle": "Van", "layout": "rear_drive", "axle": "rear", "family": "corrie-ls19", "use": "road"}
        return {"client_id": str(uuid.uuid4()), "id": str(uuid.uuid4()), "complaint": "Howl", **usual}

    def jobs(self, node: Node, job: str) -> int:
        return int(self.layout.sql(node, f"SELECT count(*) FROM jobs_job WHERE id = '{job}'", database=DATABASE))

    def test_long_lists_come_from_a_standby_but_not_for_who_has_just_written(self) -> None:
        self.until(lambda: self.browser.floor_read_from() == "standby", 20.0)
        card = self.card()
        self.assertEqual(self.browser.call("POST", "/jobs", card)[0], 201)
        status, floor = self.browser.call("GET", "/floor?search=cluster")
        self.assertEqual((status, self.browser.read_from), (200, None))
        self.assertIn(card["id"], [one["id"] for one in floor["jobs"]])
        self.browser.call("GET", f"/jobs/{card['id']}")
        self.assertIsNone(self.browser.read_from)

    def test_what_every_program_said_can_be_kept(self) -> None:
        kept = self.layout.keep_logs()
        self.addCleanup(shutil.rmtree, kept)
        self.assertIn("web-server-1.log", [one.name for one in (kept / self.layout.folder.name).iterdir()])
        for node in self.layout.nodes:
            self.assertTrue(any(one.stat().st_size for one in (kept / node.name).iterdir()), node.name)

    def test_without_a_standby_nothing_is_acknowledged_not_even_what_was_cut_short(self) -> None:
        card, cut = self.card(), []
        with Still(self.layout, [one for one in self.layout.nodes if one != self.leader()]):
            writing = threading.Thread(target=lambda: cut.append(self.browser.call("POST", "/jobs", card)))
            writing.start()
            waits = "FROM pg_stat_activity WHERE wait_event = 'SyncRep' AND backend_type = 'client backend'"

            def cut_short() -> bool:  # a worker may wait as well, and be the first
                self.layout.sql(self.leader(), f"SELECT pg_cancel_backend(pid) {waits}")
                return bool(cut)

            # the commit succeeds on this machine alone, and only a warning says so
            self.until(cut_short, 30.0)
            writing.join()
            self.assertEqual([status for status, _ in cut], [503])
            self.assertEqual(self.jobs(self.leader(), card["id"]), 1)
            with self.assertRaises(OSError):  # the row is there, and its lock waits for the standby all the same
                self.browser.call("POST", "/jobs", card, timeout=2.0)
        self.until(lambda: self.answered(card))
        self.until(lambda: all(self.jobs(one, card["id"]) == 1 for one in self.layout.nodes))

    def answered(self, card: dict[str, Any]) -> bool:
        try:
            return self.browser.call("POST", "/jobs", card, timeout=10.0)[0] == 201
        except (OSError, http.client.HTTPException):
            return False

    def test_a_primary_that_is_killed_takes_nothing_with_it(self) -> None:
        before, killed = self.card(), self.leader()
        self.assertTrue(self.answered(before))
        os.kill(killed.postmaster(), signal.SIGKILL)
        after = self.card()
        self.until(lambda: self.answered(after))
        self.assertNotEqual(self.leader().name, killed.name)
        self.until(self.level)
        self.until(lambda: all(self.jobs(one, card["id"]) == 1 for one in self.layout.nodes for card in (before, after)))

    def test_a_standby_that_no_start_gets_through_is_made_again(self) -> None:
        self.begin_a_timeline_that_nobody_leads_on()
        stuck = next(one for one in self.layout.nodes if one.name not in (self.leader().name, self.layout.synchronous()))
        heal = [
            str(PYTHON),
            str(DEPLOY / "heal.py"),
            stuck.name,
            f"http://{ADDRESS}:{stuck.rest}",
            str(stuck.folder / "rest-password"),
            "6",
        ]
        os.kill(stuck.postmaster(), signal.SIGKILL)
        os.truncate(stuck.data / "global" / "pg_control", 0)
        card = self.card()
        self.until(lambda: self.answered(card))  # the other two go on
        self.until(lambda: self.layout.members()[stuck.name][1] not in ("streaming", "running"))
        with subprocess.Popen(heal, stdout=subprocess.PIPE, text=True) as healing:
            try:
                assert healing.stdout is not None
                self.assertIn(f"{stuck.name} could not come up for 6 s", healing.stdout.readline())
                self.until(self.level)
            finally:
                healing.kill()
        self.until(lambda: self.jobs(stuck, card["id"]) == 1)

    def test_all_killed_at_once_come_up_beside_a_timeline_that_nobody_leads_on(self) -> None:
        before, after = self.card(), self.card()
        self.assertTrue(self.answered(before))
        history = self.begin_a_timeline_that_nobody_leads_on()
        shutil.copy2(history, self.leader().data / "pg_wal")  # as it lies there when it was looked at before
        give_away(self.leader().data / "pg_wal" / history.name)
        for one in self.layout.nodes:
            os.kill(one.postmaster(), signal.SIGKILL)
        self.until(lambda: self.answered(after))
        self.until(self.level)
        self.until(lambda: all(self.jobs(one, card["id"]) == 1 for one in self.layout.nodes for card in (before, after)))

    def begin_a_timeline_that_nobody_leads_on(self) -> Path:
        """As somebody leaves it in the archive who takes over and dies before anything follows."""
        leader = self.leader()
        told = json.loads(asked(f"http://{ADDRESS}:{leader.rest}/cluster") or b"{}")
        timeline = next(one["timeline"] for one in told["members"] if one["name"] == leader.name)
        history = leader.folder / f"{timeline + 1:08X}.history"
        before = [f"{one}\t0/{one:X}000000\tno recovery target specified" for one in range(1, timeline + 1)]
        history.write_text("\n".join(before) + "\n", encoding="utf-8")
        give_away(history)
        push = ["pgbackrest", f"--config={self.layout.pgbackrest}", "--stanza=amber", f"--pg1-path={leader.data}", "archive-push", history]
        subprocess.run([str(one) for one in as_database_user(push)], check=True, capture_output=True, cwd="/")
        return history

    def test_killed_at_random_while_it_is_written_to(self) -> None:
        env = {**os.environ, "PYTHONPATH": f"{ROOT}:{ROOT / 'cli'}"}
        asked = [str(PYTHON), "-m", "benchmarks.torture_cluster", str(self.layout.folder), "4", "10", "3"]
        done = subprocess.run(asked, capture_output=True, text=True, env=env, cwd=ROOT, check=False)
        self.assertEqual(done.returncode, 0, done.stdout + done.stderr)
        self.assertEqual(len(re.findall("0 missing, 0 doubled", done.stdout)), 3)


class Still:
    """These databases stand still, and go on afterwards as if nothing had been."""

    def __init__(self, layout: Layout, nodes: list[Node]) -> None:
        self.pids = [int(line) for node in nodes for line in self._tree(node.postmaster())]

    @staticmethod
    def _tree(postmaster: int) -> list[str]:
        children = subprocess.run(["ps", "--ppid", str(postmaster), "-o", "pid="], capture_output=True, text=True, check=True)
        return [str(postmaster), *children.stdout.split()]

    def __enter__(self) -> None:
        self._all(signal.SIGSTOP)

    def __exit__(self, *wrong: object) -> None:
        self._all(signal.SIGCONT)

    def _all(self, number: int) -> None:
        for one in self.pids:
            try:
                os.kill(one, number)
            except ProcessLookupError:
                continue


def script(name: str) -> Any:
    """One of those that stand beside the cluster's configuration."""
    place = spec_from_file_location(name, DEPLOY / f"{name}.py")
    assert place is not None and place.loader is not None
    module = module_from_spec(place)
    place.loader.exec_module(module)
    return module


class ATimelineThatNobodyLeadsOn(TestCase):
    """What deploy/cluster/restore.py shows of the archive's histories."""

    def left_behind(self, file: str, name: str = "n2", *, state: str = "running", own: int | None = 3) -> bool:
        members = [{"name": "n1", "role": "leader", "state": state, "timeline": 4}, {"name": "n2", "role": "replica", "state": "starting"}]
        return bool(script("restore").is_left_behind(file, name, members, own))

    def test_a_history_beyond_the_one_that_leads_is_not_there_for_a_standby(self) -> None:
        found = [self.left_behind(f"{number:08X}.history") for number in (3, 4, 5, 16)]
        self.assertEqual(found, [False, False, True, True])

    def test_who_leads_sees_every_number_that_is_taken(self) -> None:
        self.assertFalse(self.left_behind("00000005.history", "n1"))

    def test_while_nobody_leads_one_beyond_what_it_has_log_of_itself_is_not_there(self) -> None:
        found = [self.left_behind(f"{number:08X}.history", state="stopped") for number in (2, 3, 4, 5)]
        self.assertEqual(found, [False, False, True, True])
        self.assertTrue(self.left_behind("00000005.history", "n1", state="start failed"))

    def test_where_nothing_is_known_and_of_the_log_itself_nothing_is_hidden(self) -> None:
        self.assertFalse(script("restore").is_left_behind("00000005.history", "n2", [], 3))
        self.assertFalse(self.left_behind("00000005.history", state="stopped", own=None))
        self.assertFalse(self.left_behind("000000050000000000000002"))

    def test_its_own_timeline_is_that_of_its_log_and_a_copy_of_such_a_history_is_put_aside(self) -> None:
        restore, log = script("restore"), Path(self.enterContext(TemporaryDirectory()))
        self.assertIsNone(restore.newest_timeline(log))
        names = ("00000009.history", "00000008.history", "000000080000000000000002", "000000070000000000000002", "0000000A0000.partial")
        for name in names:
            (log / name).touch()
        self.assertEqual(restore.newest_timeline(log), 8)
        for name in ("00000009.history", "00000008.history", "0000000B.history"):
            restore.put_aside(log, name, 8)
        left = {one.name for one in log.iterdir()}
        self.assertEqual(left, {*names} - {"00000009.history"} | {"left-behind-00000009.history"})


class AStandbyThatIsStuck(TestCase):
    """When deploy/cluster/heal.py has one made again."""

    def setUp(self) -> None:
        self.watch = script("heal").Watch("n2", 60.0)

    def stuck(self, now: float, state: str, leader: str = "running", role: str = "replica") -> bool:
        others = [{"name": "n1", "role": "leader", "state": leader}, {"name": "n3", "role": "sync_standby", "state": "streaming"}]
        return bool(self.watch.is_stuck([*others, {"name": "n2", "role": role, "state": state}], now))

    def test_after_a_minute_without_a_start_and_again_after_another(self) -> None:
        told = [at for at in range(0, 200, 5) if self.stuck(float(at), "starting")]
        self.assertEqual(told, [60, 120, 180])

    def test_one_that_comes_up_or_is_being_made_is_left_alone(self) -> None:
        for state in ("streaming", "running", "creating replica"):
            self.assertFalse(any(self.stuck(float(at), "starting" if at % 50 else state) for at in range(0, 1000, 5)))

    def test_nothing_is_touched_while_nothing_leads_or_by_the_one_that_leads(self) -> None:
        self.assertFalse(any(self.stuck(float(at), "starting", leader="stopped") for at in range(0, 1000, 5)))
        alone = [{"name": "n2", "role": "leader", "state": "starting"}]
        self.assertFalse(any(self.watch.is_stuck(alone, float(at)) for at in range(0, 1000, 5)))
        self.assertFalse(self.watch.is_stuck([], 1e6))
