"""The noise finder over the API: felt, recorded, read in the background, kept; what is refused."""

from __future__ import annotations

import csv
import io
import uuid
from typing import Any
from unittest import mock

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import IntegrityError, transaction
from procrastinate import testing
from procrastinate.contrib.django import procrastinate_app

from amber_core.simulated.recorder import RecorderQuestion, csv_lines, record
from amber_core.vibration.orders import Drivetrain
from noise_finder import services
from noise_finder.models import Recording, RecordingChunk, RecordingReading
from test_support.api_case import API, ApiTestCase
from work.models import KeptAnswer

VAN = {"circumference_m": 2.2, "axle_ratio": 4.1, "pinion_teeth": 10, "cylinders": 4}


def log(*faults: str, **more: Any) -> bytes:
    """A file as a logger writes it."""
    asked = RecorderQuestion(drivetrain=Drivetrain(**VAN), faults=list(faults), **{"seconds": 12.0, "gear_ratio": 0.8, **more})  # type: ignore[arg-type]
    return "".join(csv_lines(record(asked))).encode()


class FinderCase(ApiTestCase):
    def setUp(self) -> None:
        self.job = self.make_job()
        self.queue = testing.InMemoryConnector()
        app = self.enterContext(procrastinate_app.current_app.replace_connector(self.queue))
        self.assertTrue(app)

    def send(self, content: bytes, *, by: str = "isla", **more: Any) -> Any:
        fields = {"client_id": str(uuid.uuid4()), "from_kmh": 60, "to_kmh": 110, **more}
        fields["file"] = SimpleUploadedFile("drive.csv", content, "text/csv")
        return self.client_of(by).post(f"{API}/work/{self.job}/recordings", fields)

    def work(self) -> None:
        """What the worker does."""
        for one in self.queue.jobs.values():
            if one["task_name"] == "noise_finder.read_recording":
                services.read_in(**one["args"])

    def recorded(self, *faults: str) -> str:
        sent = self.send(log(*faults)).json()
        self.work()
        return str(sent["id"])


class WhatIsFelt(FinderCase):
    def test_ranked_with_the_next_check(self) -> None:
        body = {"drivetrain": VAN, "tests": [{"speed_kmh": 95, "gear_ratio": 1.0, "f_hz": 49.0}]}
        found = self.call("post", "/noise-felt", {"felt": body}).json()
        self.assertEqual({one["name"] for one in found["suspects"][:2]}, {"prop_1x", "engine_1x"})
        self.assertEqual(found["next_checks"][0]["code"], "standing")
        body["outcomes"] = [{"code": "standing", "result": "changed"}]
        self.assertEqual(self.call("post", "/noise-felt", {"felt": body}).json()["suspects"][0]["word"], "likely")

    def test_refused(self) -> None:
        self.assertEqual(self.call("post", "/noise-felt", {"felt": {"drivetrain": VAN, "tests": []}}).status_code, 422)
        wrong = {"drivetrain": {**VAN, "circumference_m": 2200}, "tests": [{"speed_kmh": 95}]}
        self.assert_refused(self.call("post", "/noise-felt", {"felt": wrong}), 422, "bad_input", words="Give it in metres")


class Recordings(FinderCase):
    def test_stored_at_once_and_read_in_the_background(self) -> None:
        sent = self.send(log("prop_balance"))
        self.assertEqual(sent.status_code, 201, sent.content)
        first = sent.json()
        self.assertEqual((first["state"], first["share_read"], first["name"]), ("queued", 0.0, "drive.csv"))
        self.work()
        found = self.call("get", f"/recordings/{first['id']}").json()
        self.assertEqual((found["state"], found["share_read"]), ("done", 1.0))
        self.assertIn("Road speed from the file", " ".join(found["notes"]))
        self.assertGreaterEqual(len(found["chart"]["cells"]), 3)

    def test_the_part_that_makes_it(self) -> None:
        body = {"recording": self.recorded("prop_balance"), "drivetrain": VAN, "gear_ratio": 0.8}
        found = self.call("post", "/noise-recorded", body).json()
        self.assertEqual(found["sources"][0]["name"], "prop_1x")
        self.assertEqual(found["peaks"][0]["source"], "prop_1x")
        self.assertIn("keeps its order", found["sources"][0]["reason"])
        self.assertTrue(found["next_checks"])
        lines = {one["name"]: one for one in found["lines"]}
        self.assertAlmostEqual(lines["prop_2x"]["hz_per_kmh"], 2 * lines["prop_1x"]["hz_per_kmh"])
        # another ratio explains it otherwise: the chart is read once, the drivetrain may change
        other = self.call("post", "/noise-recorded", {**body, "drivetrain": {**VAN, "axle_ratio": 8.2}}).json()
        self.assertNotIn("prop_1x", [one["name"] for one in other["sources"]])

    def test_nothing_stands_out_of_nothing(self) -> None:
        body = {"recording": self.recorded("nothing"), "drivetrain": VAN}
        found = self.call("post", "/noise-recorded", body).json()
        self.assertEqual((found["sources"], found["peaks"]), ([], []))
        self.assertIn("No peak stands out", found["reason"])

    def test_speed_as_told_where_the_file_has_none(self) -> None:
        rows = log("prop_balance").decode().splitlines()
        plain = "\n".join(row.rpartition(",")[0] for row in rows).encode()
        sent = self.send(plain).json()
        self.work()
        found = self.call("get", f"/recordings/{sent['id']}").json()
        self.assertIn("evenly from 60 to 110 km/h", " ".join(found["notes"]))
        self.assertAlmostEqual(found["chart"]["speed_edges_kmh"][-1], 110, delta=6)

    def test_a_bad_file_says_what_is_wrong(self) -> None:
        for content, words in ((b"Dear all,\nit shakes.\n", "No line of numbers"), (b"\x89PNG\x00\x01", "not a text file")):
            sent = self.send(content).json()
            self.work()
            found = self.call("get", f"/recordings/{sent['id']}").json()
            with self.subTest(words):
                self.assertEqual(found["state"], "failed")
                self.assertIn(words, found["error"])
                reply = self.call("post", "/noise-recorded", {"recording": sent["id"], "drivetrain": VAN})
                self.assert_refused(reply, 422, "not_read", words=words)

    def test_too_large_and_empty_keep_nothing(self) -> None:
        with mock.patch.object(services, "LARGEST_BYTES", 1000):
            self.assert_refused(self.send(b"1,2\n" * 400), 413, "too_large", words="50 MB")
        self.assertEqual(self.send(b"").status_code, 422)
        self.assertEqual((Recording.objects.count(), RecordingChunk.objects.count(), len(self.queue.jobs)), (0, 0, 0))

    def test_a_retry_and_a_second_worker_change_nothing(self) -> None:
        again = str(uuid.uuid4())
        for _ in range(2):
            self.assertEqual(self.send(log("prop_balance"), client_id=again).status_code, 201)
        self.assertEqual((Recording.objects.count(), len(self.queue.jobs)), (1, 1))
        self.work()
        before = RecordingReading.objects.values().get()
        self.work()
        self.assertEqual(RecordingReading.objects.values().get(), before)

    def test_an_interrupted_reading_begins_anew(self) -> None:
        sent = self.send(log("prop_balance")).json()
        RecordingReading.objects.update(state="reading", bytes_read=17)
        self.work()
        self.assertEqual(self.call("get", f"/recordings/{sent['id']}").json()["state"], "done")

    def test_the_file_is_never_changed(self) -> None:
        self.recorded("prop_balance")
        for kind, change in ((Recording, {"name": "other"}), (RecordingChunk, {"content": b""})):
            with self.assertRaisesMessage(IntegrityError, "never changed"), transaction.atomic():
                kind.objects.update(**change)

    def test_a_finding_waits_for_its_reading(self) -> None:
        sent = self.send(log("prop_balance")).json()
        reply = self.call("post", "/noise-recorded", {"recording": sent["id"], "drivetrain": VAN})
        self.assert_refused(reply, 422, "not_read", words="still being read")

    def test_simulated_ones_are_read_like_files(self) -> None:
        body = {"drivetrain": VAN, "faults": ["joint_angles"], "seconds": 12, "gear_ratio": 0.8}
        sent = self.post(f"/work/{self.job}/simulated-recordings", body).json()
        self.assertEqual(sent["source"], "simulated")
        self.work()
        found = self.call("post", "/noise-recorded", {"recording": sent["id"], "drivetrain": VAN, "gear_ratio": 0.8}).json()
        self.assertEqual(found["sources"][0]["name"], "prop_2x")
        self.assertEqual(self.post(f"/work/{self.job}/simulated-recordings", {**body, "faults": ["luck"]}).status_code, 422)

    def test_who_may(self) -> None:
        self.assertEqual(self.send(log("nothing"), by="visitor").status_code, 403)
        self.assertEqual(self.call("get", f"/recordings/{uuid.uuid4()}").status_code, 404)


class Findings(FinderCase):
    FELT = {"drivetrain": VAN, "tests": [{"speed_kmh": 95, "f_hz": 49.0}], "quality": "buzz"}

    def keep(self, *, by: str = "isla", **more: Any) -> Any:
        return self.post(f"/work/{self.job}/noise-findings", {"title": "On the coast road", **more}, by=by)

    def test_felt_and_recorded_are_kept_and_exported(self) -> None:
        recording = self.recorded("prop_balance")
        felt = self.keep(felt=self.FELT).json()
        recorded = self.keep(recorded={"recording": recording, "drivetrain": VAN, "gear_ratio": 0.8}).json()
        self.assertEqual((felt["kind"], recorded["kind"]), ("felt", "recorded"))
        self.assertIn("Propshaft, once", recorded["first"])
        client = self.client_of("isla")
        for one in (felt, recorded):
            whole = client.get(f"{API}/noise-findings/{one['id']}/file.json").json()
            self.assertEqual(whole["format"], "amber-pinion.noise")
            rows = list(csv.DictReader(io.StringIO(client.get(f"{API}/noise-findings/{one['id']}/file.csv").content.decode())))
            self.assertEqual(rows[0]["source"], "prop_1x")
        spectrum = client.get(f"{API}/recordings/{recording}/spectrum.csv").content.decode()
        self.assertIn("peak_amplitude_m_s2", spectrum.splitlines()[0])
        page = self.call("get", f"/work/{self.job}/sheet.html").content.decode()
        self.assertIn("On the coast road", page)
        with self.assertRaisesMessage(IntegrityError, "never changed"), transaction.atomic():
            KeptAnswer.objects.update(title="x")

    def test_refused(self) -> None:
        self.assert_refused(self.keep(), 422, "bad_input", words="either what was felt")
        self.assertEqual(self.keep(felt=self.FELT, by="visitor").status_code, 403)
        recording = self.recorded("prop_balance")
        self.job = self.make_job()
        reply = self.keep(recorded={"recording": recording, "drivetrain": VAN})
        self.assert_refused(reply, 422, "bad_input", field="recorded.recording")

    def test_the_same_id_again_keeps_one_and_a_full_job_takes_no_more(self) -> None:
        again: dict[str, Any] = {"client_id": str(uuid.uuid4()), "felt": self.FELT}
        first, second = self.keep(**again).json(), self.keep(**again).json()
        self.assertEqual((first["id"], KeptAnswer.objects.count()), (second["id"], 1))
        with mock.patch("work.kept.MOST_KEPT", 1):
            self.assert_refused(self.keep(felt=self.FELT), 422, "bad_input", words="already has 1 of these")

    def test_both_at_once_are_one_too_many(self) -> None:
        recording = self.recorded("prop_balance")
        reply = self.keep(felt=self.FELT, recorded={"recording": recording, "drivetrain": VAN})
        self.assert_refused(reply, 422, "bad_input", words="either what was felt")

    def test_what_is_not_there_is_not_found(self) -> None:
        nothing = uuid.uuid4()
        for path in (f"/noise-findings/{nothing}", f"/recordings/{nothing}", f"/work/{nothing}/noise-finder"):
            with self.subTest(path):
                self.assertEqual(self.call("get", path).status_code, 404)

    def test_a_kept_finding_is_shown_as_it_was(self) -> None:
        kept = self.keep(felt=self.FELT).json()
        whole = self.call("get", f"/noise-findings/{kept['id']}").json()
        self.assertEqual((whole["felt"]["quality"], whole["recorded"], whole["title"]), ("buzz", None, "On the coast road"))

    def test_a_chart_of_another_version_asks_for_the_file_again(self) -> None:
        recording = self.recorded("prop_balance")
        reading = RecordingReading.objects.get()
        assert reading.chart is not None
        RecordingReading.objects.update(chart={"lines": []})
        reply = self.call("post", "/noise-recorded", {"recording": recording, "drivetrain": VAN})
        self.assert_refused(reply, 422, "bad_input", words="read by another version")

    def test_the_finder_in_a_fixed_number_of_queries(self) -> None:
        client = self.client_of("isla")
        for count in (1, 2, 3):
            self.send(log("nothing", seconds=3.0))
            self.keep(felt=self.FELT)
            with self.assertNumQueries(
                11
            ):  # session, person, whose, work, findings, recordings, how far read, axle facts, works, their parts, gear sets
                found = client.get(f"{API}/work/{self.job}/noise-finder").json()
            self.assertEqual((len(found["recordings"]), len(found["findings"])), (count, count))
