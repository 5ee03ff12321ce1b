"""The whole workshop out as open files, into an empty one, and the same; a witness of a moment while work goes on."""

from __future__ import annotations

import io
import json
import tempfile
import zipfile
from pathlib import Path
from typing import Any

from django.core.management import call_command
from django.core.management.base import CommandError
from django.db import connection
from django.test import TransactionTestCase

from accounts import demo as people
from accounts.models import User
from demo_world import families
from jobs.models import Job
from shared.refusals import Refusal
from test_support.api_case import ApiTestCase
from whole_workshop import witness
from whole_workshop.export import read_workshop, write_workshop
from whole_workshop.tables import record_tables, written_once
from whole_workshop.tally import digests, tally


class Whole(TransactionTestCase):
    """Not inside one transaction, since snapshots and locks are what is tried."""

    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.shop = ApiTestCase()
        ApiTestCase.who = people.load()
        families.load()
        self.job = self.shop.make_job()
        self.shop.measured(self.job)

    def exported(self, name: str = "whole.zip") -> Path:
        file = self.folder / name
        with file.open("wb") as to:
            write_workshop(to)
        return file

    def empty(self) -> None:
        with connection.cursor() as cursor:
            cursor.execute(f"TRUNCATE {', '.join(record_tables())}, django_admin_log, django_session CASCADE")

    def changed(self, file: Path, name: str, change: Any) -> Path:
        """The same file with one of its parts changed."""
        other = self.folder / f"changed-{len(list(self.folder.iterdir()))}.zip"
        with zipfile.ZipFile(file) as whole, zipfile.ZipFile(other, "w") as fresh:
            for one in whole.namelist():
                content = whole.read(one)
                fresh.writestr(one, change(content) if one == name else content)
        return other

    def test_an_empty_workshop_that_takes_it_in_holds_the_same(self) -> None:
        file, before, rows = self.exported(), tally(), digests()
        self.assertGreater(before["setup_bench_reading"][0], 7)
        number = Job.objects.get().number
        self.empty()
        call_command("import_workshop", str(file), stdout=io.StringIO())
        self.assertEqual(tally(), before)
        self.assertEqual(digests(), rows)
        self.assertFalse(User.objects.get(username="isla").has_usable_password())
        ApiTestCase.who = {one.username: one for one in User.objects.all()}
        self.shop = ApiTestCase()  # nobody is signed in any more
        self.assertEqual(len(self.shop.call("get", f"/work/{self.job}/bench").json()["trials"][0]["readings"]), 8)
        self.assertGreater(Job.objects.get(pk=self.shop.make_job()).number, number)

    def test_every_job_is_in_it_as_a_file_of_its_own_and_no_password(self) -> None:
        with zipfile.ZipFile(self.exported()) as whole:
            job = json.loads(whole.read(f"jobs/job-{Job.objects.get().number}.json"))
            logins = whole.read("records/accounts_user.jsonl").decode()
        self.assertEqual(job["job"]["id"], self.job)
        self.assertNotIn("argon2", logins)
        self.assertNotIn('"password"', logins)

    def test_what_is_no_whole_workshop_is_refused_and_nothing_is_taken_in(self) -> None:
        file = self.exported()
        with self.assertRaisesRegex(Refusal, "empty one only"):
            read_workshop(file)
        self.empty()
        nothing = tally()
        cut = self.folder / "cut.zip"
        cut.write_bytes(file.read_bytes()[:5000])
        plain = self.folder / "plain.zip"
        plain.write_bytes(b"not a zip")
        table = "records/setup_bench_reading.jsonl"
        newer = self.changed(file, "manifest.json", lambda content: content.replace(b"jobs 00", b"jobs 99"))
        cases = [
            (cut, "damaged"),
            (plain, "damaged"),
            (newer, "another release"),
            (self.changed(file, "manifest.json", lambda content: b"{}"), "not a whole workshop"),
            (self.changed(file, "manifest.json", lambda content: b"{"), "cannot be read"),
            (self.changed(file, table, lambda content: content + b"{\n"), "is not JSON"),
            (self.changed(file, table, lambda content: content[content.index(b"\n") + 1 :]), "content was changed"),
            (self.changed(file, table, lambda content: content.replace(b"0.17", b"0.11")), "content was changed"),
        ]
        for damaged, sentence in cases:
            with self.subTest(damaged.name), self.assertRaisesRegex(Refusal, sentence):
                read_workshop(damaged)
        self.assertEqual(tally(), nothing)
        with self.assertRaisesRegex(CommandError, "damaged"):
            call_command("import_workshop", str(plain))

    def test_a_file_that_is_there_is_not_written_over(self) -> None:
        file = self.folder / "there.zip"
        file.write_bytes(b"precious")
        with self.assertRaisesRegex(CommandError, "is there already"):
            call_command("export_workshop", str(file))
        self.assertEqual(file.read_bytes(), b"precious")

    def test_a_witness_names_a_moment_and_says_what_it_held(self) -> None:
        found = witness.take()
        self.assertEqual(found["tables"], tally())
        self.shop.read_all(self.shop.trial_id(self.shop.call("get", f"/work/{self.job}/bench")))
        self.assertNotEqual(found["tables"]["setup_bench_reading"], tally()["setup_bench_reading"])
        self.assertRegex(found["point"], r"^witness-\d{8}-\d{6}-\w{6}$")

    def test_what_is_written_once_has_a_hash_for_each_row(self) -> None:
        found = digests()
        self.assertEqual(sorted(found), written_once())
        self.assertEqual(len(found["setup_bench_reading"]), tally()["setup_bench_reading"][0])
