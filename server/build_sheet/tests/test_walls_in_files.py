"""A job's file with its Parts wall: with the pictures as a zip, without them as JSON, and zips that are none."""

from __future__ import annotations

import io
import json
import uuid
import zipfile
from pathlib import Path
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile

from build_sheet.job_file import content_hash
from jobs.models import Job
from parts_wall.models import PartPhoto, PartRecord
from test_support.api_case import API, ApiTestCase, picture
from vehicles.models import Vehicle


class WallsInFiles(ApiTestCase):
    def setUp(self) -> None:
        self.work = self.make_job(teeth=None, kind="strip_and_report", family="corrie-ls19")
        for what, body in (
            ("off", {"key": "cover", "bag": "3", "mark": "A"}),
            ("off", {"key": "sshim.ring", "stack": "0.5 mm + 0.34 mm", "damaged": [1]}),
            ("off", {"key": "own_4f3a", "name": "Cover guard"}),
            ("looks", {"key": "ring", "findings": ["chip"], "decision": "replace"}),
            ("pieces", {"key": "ring", "missing": 2}),
            ("needs", {"line": str(uuid.uuid4()), "name": "Gear set", "price": "415"}),
        ):
            self.assertEqual(self.post(f"/work/{self.work}/parts/{what}", body).status_code, 201)
        guard = PartRecord.objects.get(key="own_4f3a")
        self.assertEqual(self.post(f"/work/{self.work}/parts/undo", {"record": str(guard.client_id)}).status_code, 201)
        file = SimpleUploadedFile("a.jpg", picture(size=(600, 400)), "image/jpeg")
        form = {"client_id": str(uuid.uuid4()), "key": "cover", "file": file}
        self.assertEqual(self.client_of("isla").post(f"{API}/work/{self.work}/parts/photos", form).status_code, 201)

    def renamed(self, plain: dict[str, Any]) -> tuple[dict[str, Any], dict[str, str]]:
        """The same job under other ids, so that it can come in beside this one."""
        text, new = json.dumps(plain), {}
        work = plain["works"][0]
        ids = {plain["job"]["id"], plain["vehicle"]["id"]}
        ids |= {inner["id"] for quote in work["quotes"] for inner in (quote["end"], quote["answer"]) if inner}
        ids |= {row["id"] for rows in work.values() if isinstance(rows, list) for row in rows if isinstance(row, dict) and "id" in row}
        for one in [*ids, *(row["id"] for row in plain["station_records"])]:
            new[one] = str(uuid.uuid4())
            text = text.replace(one, new[one])
        found = json.loads(text)
        return {**found, "hash": content_hash(found)}, new

    def send(self, content: bytes) -> Any:
        file = SimpleUploadedFile("job.zip", content, "application/zip")
        return self.client_of("isla").post(f"{API}/import", {"client_id": str(uuid.uuid4()), "vehicle": "new", "file": file})

    def zipped(self, entries: dict[str, bytes]) -> bytes:
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w") as packed:
            for name, content in entries.items():
                packed.writestr(name, content)
        return out.getvalue()

    def unpacked(self) -> dict[str, bytes]:
        reply = self.call("get", f"/jobs/{self.work}/job.zip")
        with zipfile.ZipFile(io.BytesIO(reply.content)) as packed:
            return {name: packed.read(name) for name in packed.namelist()}

    def wall(self, work: str) -> Any:
        return self.call("get", f"/work/{work}/parts").json()

    def test_a_zip_brings_the_wall_with_its_pictures(self) -> None:
        entries = self.unpacked()
        plain, new = self.renamed(json.loads(entries.pop("job.json")))
        moved = {name.replace(old, one): content for name, content in entries.items() for old, one in new.items() if old in name}
        reply = self.send(self.zipped({"job.json": json.dumps(plain).encode(), **moved}))
        self.assertEqual(reply.status_code, 201, reply.content)
        there = self.wall(reply.json()["job_id"])
        parts = {one["key"]: one for one in there["parts"]}
        self.assertEqual((parts["cover"]["off"]["bag"], len(parts["cover"]["photos"])), ("3", 1))
        self.assertEqual([one["damaged"] for one in parts["sshim.ring"]["off"]["stack"]], [False, True])
        self.assertEqual((parts["ring"]["pieces"]["missing"], there["needs"][0]["price"]), (2, 41500))
        self.assertNotIn("own_4f3a", parts)  # undone before it was exported
        photo = self.client_of("isla").get(f"{API}/part-photos/{parts['cover']['photos'][0]}")
        self.assertEqual(photo.content[:2], b"\xff\xd8")
        self.assertEqual(Job.objects.get(pk=reply.json()["job_id"]).imported_note, "")

    def test_json_alone_brings_the_wall_without_them(self) -> None:
        plain, _ = self.renamed(json.loads(self.unpacked()["job.json"]))
        file = SimpleUploadedFile("job.json", json.dumps(plain).encode(), "application/json")
        reply = self.client_of("isla").post(f"{API}/import", {"client_id": str(uuid.uuid4()), "vehicle": "new", "file": file})
        self.assertEqual(reply.status_code, 201, reply.content)
        self.assertEqual(PartPhoto.objects.filter(work__job=reply.json()["job_id"]).count(), 0)
        self.assertEqual(PartRecord.objects.filter(work__job=reply.json()["job_id"]).count(), 6)

    def quoted(self) -> dict[str, Any]:
        """The file of a job with a quote that was answered, one that was withdrawn and one that is open."""
        ways = {"hourly": 6000, "ways": [{"name": "New gear set", "minutes": 300, "parts": []}]}
        looked = {"key": "ring", "findings": ["chip"], "decision": "replace", "ways": ways, "way": "New gear set"}
        self.assertEqual(self.post(f"/work/{self.work}/parts/looks", looked).status_code, 201)
        quote = {"hourly": "60", "keys": ["ring"], "intro": "Found today"}
        tokens = [self.post(f"/work/{self.work}/parts/quotes", quote).json()["token"] for _ in range(3)]
        said = {"answers": {"ring": True}, "name": "A. Customer", "note": "Go ahead"}
        self.assertEqual(self.post(f"/shared-quotes/{tokens[0]}/answer", said, by=None).status_code, 201)
        second = self.wall(self.work)["links"][1]["id"]
        self.assertEqual(self.post(f"/quote-links/{second}/end", {}).status_code, 201)
        return json.loads(self.unpacked()["job.json"])  # type: ignore[no-any-return]

    def sent(self, plain: dict[str, Any]) -> Any:
        return self.send(self.zipped({"job.json": json.dumps(plain).encode()}))

    def test_quotes_come_along_with_what_the_customer_said(self) -> None:
        plain, _ = self.renamed(self.quoted())
        job = self.sent(plain).json()["job_id"]
        links = self.wall(job)["links"]
        self.assertEqual([one["state"] for one in links], ["answered", "called_back", "by_file"])
        self.assertEqual((links[0]["answer"]["name"], links[0]["answer"]["answers"]), ("A. Customer", {"ring": True}))
        here = {one["at"]: one["state"] for one in self.wall(self.work)["links"]}
        self.assertEqual([here[one["at"]] for one in links], ["answered", "called_back", "open"])
        self.assertIn("A. Customer", self.call("get", f"/work/{job}/sheet.html").content.decode())
        again = self.call("get", f"/jobs/{job}/job.json").json()
        self.assertEqual(again["works"][0]["quotes"], plain["works"][0]["quotes"])

    def test_a_quote_that_cannot_be_shown_is_refused_and_leaves_nothing(self) -> None:
        plain, _ = self.renamed(self.quoted())
        quote, before = plain["works"][0]["quotes"][0], Job.objects.count()
        document, line = quote["document"], quote["document"]["lines"][0]
        for name, wrong in (
            ("no lines", {"document": {**document, "lines": []}}),
            ("a total that is none", {"document": {**document, "lines": [{**line, "ways": [{**line["ways"][0], "total": "much"}]}]}}),
            ("something else beside", {"document": {**document, "script": "x"}}),
            ("an answer to another line", {"answer": {**quote["answer"], "answers": {"pinion": True}}}),
            ("ended before it began", {"expires_at": "2001-01-01T00:00:00Z"}),
        ):
            with self.subTest(name):
                part = {**plain["works"][0], "quotes": [{**quote, **wrong}]}
                self.assert_refused(self.sent({**plain, "works": [part]}), 422, "bad_file")
        self.assertEqual(Job.objects.count(), before)

    def test_version_8_comes_in_without_quotes(self) -> None:
        plain = json.loads((Path(__file__).parent / "older_files/version-8-strip-and-report.json").read_text())
        self.assertEqual((plain["version"], plain["hash"]), (8, content_hash(plain)))
        reply = self.sent(plain)
        self.assertEqual(reply.status_code, 201, reply.content)
        again = self.call("get", f"/jobs/{reply.json()['job_id']}/job.json").json()["works"][0]
        self.assertEqual((again["part_records"], again["quotes"]), (plain["works"][0]["part_records"], []))

    def test_zips_that_cannot_be_taken_leave_nothing(self) -> None:
        entries = self.unpacked()
        plain, new = self.renamed(json.loads(entries["job.json"]))
        photo = next(f"pictures/{one}.jpg" for old, one in new.items() if f"pictures/{old}.jpg" in entries)
        good = self.zipped({"job.json": json.dumps(plain).encode()})
        before = (Job.objects.count(), Vehicle.objects.count(), PartRecord.objects.count())
        for name, content, said in (
            ("no job", self.zipped({"a.txt": b"x"}), "holds no job file"),
            ("cut off", good[: len(good) // 2], "cut off or damaged"),
            ("no picture", self.zipped({"job.json": json.dumps(plain).encode(), photo: b"oil"}), "not a picture"),
        ):
            with self.subTest(name):
                reply = self.send(content)
                self.assertEqual(reply.status_code, 422, reply.content)
                self.assertIn(said, reply.json()["error"]["message"])
        bomb = io.BytesIO()
        with zipfile.ZipFile(bomb, "w", zipfile.ZIP_DEFLATED) as packed:
            packed.writestr("job.json", b"0" * (110 * 2**20))
        self.assertEqual(self.send(bomb.getvalue()).status_code, 413)
        self.assertEqual((Job.objects.count(), Vehicle.objects.count(), PartRecord.objects.count()), before)
