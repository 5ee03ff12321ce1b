"""The private PostgreSQL cluster, made and started for real in a folder of its own."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import tempfile
import time
from pathlib import Path
from unittest import TestCase, mock

from amber_cli import postgres
from amber_cli.install import POSTGRES_BIN
from amber_cli.postgres import Cluster, free_port
from amber_cli.say import Failed


class PrivateCluster(TestCase):
    def setUp(self) -> None:
        folder = tempfile.mkdtemp(prefix="amber-cluster-", dir="/var/tmp")
        os.chmod(folder, 0o755)
        self.enterContext(mock.patch.dict(os.environ, {"PG_HOME": folder}))
        self.enterContext(mock.patch.object(postgres, "FIRST_PORT", 54700))
        self.enterContext(mock.patch.object(postgres, "step"))
        self.cluster = Cluster("one", durable=True)
        self.addCleanup(subprocess.run, ["rm", "-rf", folder], check=False)
        self.addCleanup(self.cluster.stop)

    def ask(self, statement: str) -> str:
        command = [
            str(POSTGRES_BIN / "psql"),
            "-h",
            "127.0.0.1",
            "-p",
            str(self.cluster.port),
            "-U",
            "amber",
            "-d",
            "postgres",
            "-tAc",
            statement,
        ]
        return subprocess.run(command, capture_output=True, text=True, check=True).stdout.strip()

    def test_it_listens_on_loopback_alone_keeps_its_promises_and_is_not_roots(self) -> None:
        self.cluster.start()
        self.assertEqual(self.ask("show listen_addresses"), "127.0.0.1")
        self.assertEqual(self.ask("show unix_socket_directories"), "")
        self.assertEqual((self.ask("show fsync"), self.ask("show synchronous_commit")), ("on", "on"))
        self.assertNotEqual(self.cluster.data.stat().st_uid, 0)

    def test_a_database_is_made_once(self) -> None:
        self.cluster.start()
        for _ in range(2):
            self.cluster.make_database("bench")
        self.assertEqual(self.ask("select count(*) from pg_database where datname = 'bench'"), "1")
        self.assertEqual(self.cluster.url("bench"), f"postgres://amber@127.0.0.1:{self.cluster.port}/bench")

    def test_it_starts_again_after_a_kill(self) -> None:
        self.cluster.start()
        self.ask("create table kept (n int); insert into kept values (7)")
        os.kill(int((self.cluster.data / "postmaster.pid").read_text().split()[0]), signal.SIGKILL)
        port = self.cluster.port
        while self.cluster.runs():
            time.sleep(0.02)
        self.cluster.start()
        self.assertEqual((self.ask("select n from kept"), self.cluster.port, self.cluster.runs()), ("7", port, True))

    def test_one_left_running_is_taken_over(self) -> None:
        self.cluster.start()
        port = self.cluster.port
        again = Cluster("one", durable=True)
        again.start()
        self.assertEqual(again.port, port)
        again.stop()

    def test_half_a_folder_is_begun_anew(self) -> None:
        self.cluster.data.mkdir()
        (self.cluster.data / "left.over").write_text("x")
        self.cluster.start()
        self.assertEqual(self.ask("select 1"), "1")


class Ports(TestCase):
    def test_a_taken_port_is_passed_over(self) -> None:
        with socket.socket() as taken:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            port = taken.getsockname()[1]
            self.assertGreater(free_port(port), port)

    def test_a_folder_the_servers_user_cannot_reach_is_said(self) -> None:
        if os.geteuid() != 0:
            self.skipTest("only root hands the folder to another user")
        with tempfile.TemporaryDirectory() as shut:
            Path(shut).chmod(0o700)
            with mock.patch.dict(os.environ, {"PG_HOME": shut}), self.assertRaises(Failed) as caught:
                Cluster("one", durable=False)
        self.assertIn("give PG_HOME a folder it can reach", str(caught.exception))
