"""A workshop made from nothing in a folder of its own, served through TLS, backed up, restored, upgraded; with the real programs."""

from __future__ import annotations

import json
import os
import shutil
import socket
import ssl
import subprocess
import tempfile
import time
import urllib.error
import urllib.request
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any
from unittest import TestCase, mock

from amber_cli.paths import ROOT
from amber_cli.postgres import free_port
from amber_cli.say import Failed
from amber_cli.workshop import backups, certificates, checks, proxy, units, upgrade
from amber_cli.workshop.database import DATABASE, HouseCluster
from amber_cli.workshop.home import Home, Settings

PASSWORD = "anvil-lantern-47"  # noqa: S105 - of a workshop that is gone after the test
_UP_WITHIN_S = 60.0


def amber(*words: str, typed: str = "", check: bool = True) -> subprocess.CompletedProcess[str]:
    """The command as a person gives it."""
    env = {key: value for key, value in os.environ.items() if not key.startswith(("AMBER_", "DJANGO_", "DATABASE_", "PYTHON"))}
    command = [str(ROOT / "amber"), "workshop", *words]
    done = subprocess.run(command, input=typed, capture_output=True, text=True, env=env, check=False)
    if check and done.returncode != 0:
        raise AssertionError(f"{' '.join(words)}: {done.stdout}\n{done.stderr}")
    return done


class AWorkshop(TestCase):
    folder: Path
    home: Home
    weak: subprocess.CompletedProcess[str]
    made: subprocess.CompletedProcess[str]

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.folder = Path(tempfile.mkdtemp(prefix="amber-workshop-", dir="/var/tmp"))
        cls.folder.chmod(0o755)
        cls.addClassCleanup(shutil.rmtree, cls.folder, ignore_errors=True)
        cls.home = Home(cls.folder / "home")
        cls.addClassCleanup(lambda: HouseCluster(cls.home).stop() if cls.home.made else None)
        ports = ["--https-port", str(free_port(8900)), "--http-port", str(free_port(8960))]
        hosts = ["--host", "127.0.0.1", "--host", "bench.local"]
        run_as = ["--run-as", "root"] if os.geteuid() == 0 else []  # the tests' own Python may lie where only root reads
        options = [*hosts, *ports, *run_as, "--no-units", "--foreman", "greta"]
        cls.weak = cls.word("make", *options, typed="short\n", check=False)
        cls.made = cls.word("make", *options, typed=f"{PASSWORD}\n")
        HouseCluster(cls.home).start()

    @classmethod
    def word(cls, name: str, *words: str, typed: str = "", check: bool = True) -> subprocess.CompletedProcess[str]:
        return amber(name, *words, "--home", str(cls.home.folder), typed=typed, check=check)

    @property
    def cluster(self) -> HouseCluster:
        return HouseCluster(self.home)

    def put_away(self, mark: str) -> None:
        """A row that is written once."""
        row = "INSERT INTO accounts_shophours (client_id, by_name, at, hours, hands, closed, shop_id)"
        self.cluster.sql(f"{row} VALUES (gen_random_uuid(), '{mark}', now(), '[]', 1, '[]', 1)", database=DATABASE)

    def marks(self, cluster: HouseCluster) -> list[str]:
        return cluster.sql("SELECT by_name FROM accounts_shophours ORDER BY id", database=DATABASE).split()

    def test_what_was_typed_is_printed_nowhere_and_secrets_are_their_owners(self) -> None:
        self.assertNotIn(PASSWORD, self.made.stdout + self.made.stderr)
        self.assertIn("https://127.0.0.1:", self.made.stdout)
        self.assertIn("vouched for by nobody else", self.made.stdout)
        self.assertIn("█", self.made.stdout)
        kept = [*self.home.secrets.iterdir(), self.home.settings_file, self.home.tls / "house.key", self.home.tls / "server.key"]
        for one in [*kept, self.cluster.conf]:
            with self.subTest(one.name):
                self.assertEqual(one.stat().st_mode & 0o077, 0)
        self.assertEqual(self.cluster.sql("SHOW data_checksums"), "on")
        self.assertEqual(self.cluster.sql("SELECT rolsuper FROM pg_roles WHERE rolname = 'amber_app'"), "f")
        self.assertEqual(self.cluster.sql("SELECT role FROM accounts_user WHERE username = 'greta'", database=DATABASE), "foreman")
        self.assertEqual((self.weak.returncode, "too short" in self.weak.stderr), (1, True))

    def test_phones_reach_it_through_tls_and_the_check_says_what_is_not_right(self) -> None:
        started = subprocess.Popen(
            [str(ROOT / "amber"), "workshop", "start", "--home", str(self.home.folder)], stdout=subprocess.DEVNULL, stderr=subprocess.PIPE
        )
        self.cluster.stop()
        self.addCleanup(self.cluster.start)
        self.addCleanup(lambda: (started.terminate(), started.communicate(timeout=60)))
        if started.poll() is not None:
            self.fail(started.communicate()[1].decode())
        trusted = ssl.create_default_context(cafile=str(self.home.tls / "house.crt"))
        there = proxy.address(self.home)
        began = time.monotonic()
        while True:
            try:
                with urllib.request.urlopen(f"{there}api/v1/welcome", context=trusted, timeout=5) as reply:
                    self.assertEqual(json.load(reply)["is_demo"], False)
                break
            except OSError:
                self.assertLess(time.monotonic() - began, _UP_WITHIN_S)
                time.sleep(0.3)
        page = urllib.request.urlopen(proxy.certificate_address(self.home), timeout=5).read().decode()
        self.assertIn(certificates.fingerprint(self.home), page)
        crt = urllib.request.urlopen(f"{proxy.certificate_address(self.home)}house.crt", timeout=5).read()
        self.assertEqual(crt, (self.home.tls / "house.crt").read_bytes())
        for size, address in ((3_000_000, "api/v1/jobs"), (110_000_000, "api/v1/import")):
            request = urllib.request.Request(f"{there}{address}", data=b"x" * size, method="POST")
            with self.subTest(address), self.assertRaises(OSError):
                urllib.request.urlopen(request, context=trusted, timeout=30)
        spooled = urllib.request.Request(f"{there}api/v1/import", data=b"x" * 1_500_000, method="POST")
        with self.assertRaises(urllib.error.HTTPError) as caught:  # more than nginx keeps in memory, and it reaches the application
            urllib.request.urlopen(spooled, context=trusted, timeout=30)
        self.assertEqual((caught.exception.code, json.load(caught.exception)["error"]["code"]), (401, "signed_out"))
        found = checks.troubles(self.home)
        self.assertTrue(any("same disk" in one for one in found), found)
        self.assertFalse([one for one in found if "does not answer" in one or "earlier release" in one], found)

    def test_a_backup_is_proven_and_a_moment_comes_back(self) -> None:
        self.put_away("before")
        self.word("backup")
        moment = datetime.now(UTC)
        time.sleep(1.1)
        self.put_away("after")
        self.assertIn("The backup is good", self.word("prove").stderr)
        last = backups.last_proof(self.home)
        assert last is not None
        self.assertGreaterEqual(last["rows"], 3)
        copy = HouseCluster(self.home, folder=self.folder / "copy")
        said = self.word("restore", "--to", f"{moment + timedelta(seconds=0.5):%Y-%m-%d %H:%M:%S.%f+00:00}", "--into", str(copy.home))
        port = int(said.stderr.split("it listens on 127.0.0.1:")[1].split()[0])
        restored = HouseCluster(self.home, folder=copy.home, port=port)
        self.addCleanup(restored.stop)
        self.assertIn("each the same as in the workshop; 1 were written after", said.stderr)
        self.assertEqual(self.marks(restored)[-1], "before")
        self.assertEqual(self.marks(self.cluster)[-1], "after")
        wrong = {"tomorrow": "Type the moment as", "2020-01-01 00:00": "No backup reaches back", "2999-01-01 00:00": "not come"}
        for typed, sentence in wrong.items():
            with self.subTest(typed):
                refused = self.word("restore", "--to", typed, "--into", str(self.folder / "other"), check=False)
                self.assertEqual((refused.returncode, sentence in refused.stderr), (1, True), refused.stderr)
        running = self.word("adopt", str(copy.home), check=False)
        self.assertIn("still runs", running.stderr)
        self.word("stop-copy", str(copy.home))
        self.addCleanup(self.cluster.start)
        self.cluster.stop()
        time.sleep(1.1)  # what it wrote last lies before the second that is asked for
        last = HouseCluster(self.home, folder=self.folder / "last")
        now = f"{datetime.now(UTC):%Y-%m-%d %H:%M:%S+00:00}"
        said = self.word("restore", "--to", now, "--into", str(last.home))
        self.assertIn("Nothing in the backups was written after that moment", said.stderr)
        self.assertIn("could not be held against it", said.stderr)
        self.word("stop-copy", str(last.home))
        self.assertIn("is set aside in", self.word("adopt", str(copy.home)).stderr)
        self.cluster.start()
        self.assertEqual(self.marks(self.cluster)[-1], "before")
        self.word("backup", "--full")

    def test_a_damaged_copy_is_not_called_good(self) -> None:
        lost = {"point": "x", "tables": {"jobs_job": [1, "5"]}, "at": ""}
        with mock.patch.object(Home, "django", side_effect=[json.dumps(lost), json.dumps({"jobs_job": [0, "0"]})]):
            copy: Any = mock.Mock(port=1)
            with mock.patch.object(backups, "_restored", return_value=copy), self.assertRaisesRegex(Failed, "jobs_job"):
                backups.prove(self.home)
        copy.stop.assert_called_once()
        self.assertFalse(json.loads(self.home.proofs.read_text().splitlines()[-1])["good"])

    def test_an_upgrade_that_fails_changes_nothing(self) -> None:
        def breaks(home: Home, database: str) -> None:
            HouseCluster(home).sql("DROP TABLE accounts_shophours CASCADE", database=database)
            raise Failed("A migration failed.")

        self.put_away("kept")
        with mock.patch("amber_cli.say.print"), self.assertRaisesRegex(Failed, "is as it was"):
            upgrade.upgrade(self.home, migrating=breaks)
        self.assertEqual(self.marks(self.cluster)[-1], "kept")
        databases = self.cluster.sql("SELECT datname FROM pg_database")
        self.assertNotIn(upgrade.FRESH, databases)
        said = self.word("upgrade")
        self.assertIn("The database is of this release", said.stderr)
        self.assertEqual(self.marks(self.cluster)[-1], "kept")
        self.assertIn(upgrade.BEFORE, self.cluster.sql("SELECT datname FROM pg_database"))

    def test_another_address_gets_another_certificate_and_another_key_keeps_who_is_signed_in(self) -> None:
        house = (self.home.tls / "house.crt").read_bytes()
        self.word("make", "--host", "127.0.0.1", "--host", "bench.local", "--host", "192.168.7.7", "--no-units")
        self.assertIn("192.168.7.7", certificates.named(self.home))
        self.assertEqual((self.home.tls / "house.crt").read_bytes(), house)
        self.assertGreater(certificates.days_left(self.home), 300)
        before = self.home.secret("secret-key")
        self.word("new-key")
        self.assertNotEqual(self.home.secret("secret-key"), before)
        self.assertEqual(self.home.environment()["AMBER_OLD_SECRET_KEYS"], before)

    def test_backups_on_another_disk_are_encrypted_when_wanted(self) -> None:
        said = self.word("make", "--encrypt-backups", "--no-units", typed="heather and peat\n", check=False)
        self.assertIn("not encrypted already", said.stderr)
        other = self.folder / "disk"
        other.mkdir()
        settings = self.home.settings
        self.addCleanup(
            lambda: (self.home.keep(settings), (self.home.secrets / "backup-passphrase").unlink(), backups.configure(self.home))
        )
        self.word("make", "--encrypt-backups", "--backups-to", str(other), "--no-units", typed="heather and peat\n")
        self.assertIn("The backup is good", self.word("prove").stderr)
        info = (other / "amber-pinion-backups" / "backup" / "workshop" / "backup.info").read_bytes()
        self.assertTrue(info.startswith(b"Salted__"), info[:40])
        self.assertNotIn("heather", self.home.settings_file.read_text())

    def test_units_for_systemd(self) -> None:
        names = {one.name for one in units.write(self.home)}
        self.assertEqual(names, {f"amber-pinion-{part}.service" for part in (*units.PARTS, "backup")} | {"amber-pinion-backup.timer"})
        text = (self.home.units / "amber-pinion-web.service").read_text()
        self.assertIn(f"ExecStart={ROOT}/amber workshop only web --home {self.home.folder}", text)
        self.assertIn("Restart=always", text)


class Folder(TestCase):
    def test_a_port_that_is_taken_is_said_before_anything_is_made(self) -> None:
        with socket.socket() as taken, tempfile.TemporaryDirectory(dir="/var/tmp") as folder:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            port = str(taken.getsockname()[1])
            run_as = ["--run-as", "root"] if os.geteuid() == 0 else []
            said = amber("make", "--home", f"{folder}/home", "--https-port", port, *run_as, check=False)
            self.assertIn(f"Another program listens on port {port} already", said.stderr)
            self.assertFalse(Home(Path(folder) / "home").made)

    def test_a_folder_without_a_workshop_is_said(self) -> None:
        said = amber("check", "--home", "/var/tmp/no-such-workshop", check=False)
        self.assertEqual(said.returncode, 1)
        self.assertIn("There is no workshop in", said.stderr)

    def test_settings_that_cannot_be_read_are_said(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            (Path(folder) / "settings.json").write_text("{")
            with self.assertRaisesRegex(Failed, "cannot be read"):
                Home(Path(folder)).settings  # noqa: B018 - reading is what is tried

    def test_a_certificate_from_elsewhere_has_to_fit_its_key(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            home = Home(Path(folder))
            home.make_folders()
            home.keep(Settings(hosts=["bench.local"], https_port=1, http_port=2, database_port=3, web_port=4))
            certificates.ensure(home)
            with self.assertRaisesRegex(Failed, "are not a certificate and its key"):
                certificates.take_own(home, home.tls / "server.crt", home.tls / "house.key")
            ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER).load_cert_chain(home.tls / "server.crt", home.tls / "server.key")
