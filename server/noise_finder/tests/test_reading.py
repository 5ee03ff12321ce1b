"""Reading a recording piece by piece: the same whatever the pieces, with progress, whoever wrote the file; and who does it."""

from __future__ import annotations

import uuid
from unittest import mock

from procrastinate.contrib.django import app

from noise_finder import services, tasks
from noise_finder.models import Recording, RecordingChunk, RecordingReading
from noise_finder.tests.test_finder import VAN, FinderCase, log
from records.writing import Writing


class Pieces(FinderCase):
    def store(self, content: bytes, size: int) -> Recording:
        """As a large upload comes: piece by piece."""
        return services.take_in(
            Writing.of(self.who["isla"]),
            work_id=uuid.UUID(self.job),
            name="drive.csv",
            source="file",
            size_bytes=len(content),
            pieces=(content[at : at + size] for at in range(0, len(content), size)),
            from_kmh=60.0,
            to_kmh=110.0,
        )

    def test_cut_anywhere_it_is_the_same_recording(self) -> None:
        content = log("prop_balance")
        charts = []
        for size in (137, 4096, services.CHUNK_BYTES):
            recording = self.store(content, size)
            self.assertEqual(recording.chunks.count(), -(-len(content) // size))
            services.read_in(recording.pk)
            charts.append(RecordingReading.objects.get(recording=recording).chart)
        self.assertEqual(charts[0], charts[1])
        self.assertEqual(charts[0], charts[2])

    def test_how_far_it_has_come_is_told_after_every_piece(self) -> None:
        recording = self.store(log("nothing"), 20_000)
        told: list[int] = []
        services._read(recording, told.append)
        self.assertEqual(told, sorted(told))
        self.assertEqual((told[-1], len(told)), (recording.size_bytes, recording.chunks.count()))
        self.assertGreater(len(told), 2)

    def test_one_that_cannot_be_read_says_so_and_is_read_again_when_asked(self) -> None:
        recording = self.store(log("nothing"), services.CHUNK_BYTES)
        path = f"/recordings/{recording.client_id}/read-again"
        self.assert_refused(self.post(path, {}), 422, "bad_input", words="has been read, or is waiting")
        with mock.patch("noise_finder.services.order_chart", side_effect=MemoryError), self.assertLogs("noise_finder.services", "ERROR"):
            services.read_in(recording.pk)
        reading = RecordingReading.objects.get(recording=recording)
        self.assertEqual((reading.state, reading.error), ("failed", services.NOT_READ))
        self.assertEqual(self.post(path, {}, by="visitor").status_code, 403)
        self.assertEqual(self.post(path, {}).json()["state"], "queued")
        services.read_in(recording.pk)
        self.assertEqual(RecordingReading.objects.get(recording=recording).state, "done")

    def test_a_small_file_that_would_need_gigabytes_fails_with_its_sentence(self) -> None:
        recording = self.store(log("nothing") + b"864000.0,0.0,0.0,9.8,60.0\n", services.CHUNK_BYTES)
        services.read_in(recording.pk)
        reading = RecordingReading.objects.get(recording=recording)
        self.assertEqual(reading.state, "failed")
        self.assertIn("The most is {value2:.0f} h", reading.error)

    def test_pieces_lie_in_their_order(self) -> None:
        content = log("nothing")
        self.store(content, 9_999)
        stored = b"".join(bytes(one) for one in RecordingChunk.objects.values_list("content", flat=True))
        self.assertEqual(stored, content)

    def test_decimal_commas_and_no_speed(self) -> None:
        rows = [row.rsplit(",", 1)[0] for row in log("prop_balance").decode().splitlines()[1:]]
        text = "\n".join(["Zeit [s];x [m/s2];y [m/s2];z [m/s2]", *(row.replace(",", ";").replace(".", ",") for row in rows)])
        sent = self.send(text.encode()).json()
        self.work()
        found = self.call("get", f"/recordings/{sent['id']}").json()
        self.assertEqual(found["state"], "done", found["error"])
        self.assertIn("decimal comma", " ".join(found["notes"]))
        answer = self.call("post", "/noise-recorded", {"recording": sent["id"], "drivetrain": VAN, "gear_ratio": 0.8}).json()
        self.assertEqual(answer["sources"][0]["name"], "prop_1x")

    def test_a_steady_drive_is_told_as_one(self) -> None:
        rows = [row.rsplit(",", 1)[0] for row in log("prop_balance", from_kmh=80.0, to_kmh=80.0).decode().splitlines()]
        sent = self.send("\n".join(rows).encode(), from_kmh=80, to_kmh=80).json()
        self.work()
        found = self.call("get", f"/recordings/{sent['id']}").json()
        self.assertIn("a steady 80 km/h", " ".join(found["notes"]))
        self.assertEqual(len(found["chart"]["cells"]), 1)
        answer = self.call("post", "/noise-recorded", {"recording": sent["id"], "drivetrain": VAN, "gear_ratio": 0.8}).json()
        self.assertNotIn("keeps its order", answer["sources"][0]["reason"])

    def test_a_speed_that_is_none_is_refused_before_anything_is_stored(self) -> None:
        for change in ({"from_kmh": 0}, {"to_kmh": "fast"}, {"to_kmh": 900}):
            with self.subTest(change):
                self.assertEqual(self.send(log("nothing"), **change).status_code, 422)
        self.assertEqual((Recording.objects.count(), RecordingReading.objects.count()), (0, 0))

    def test_a_long_name_is_cut_and_a_signed_off_job_takes_no_more(self) -> None:
        job = self.job
        self.send(log("nothing"))
        with mock.patch.object(services, "MOST_RECORDINGS", 1):
            self.assert_refused(self.send(log("nothing")), 422, "bad_input", words="already has 1 recordings")
        self.assertEqual(Recording.objects.filter(work_id=job).count(), 1)


class Tasks(FinderCase):
    def test_the_worker_knows_what_it_is_asked(self) -> None:
        self.assertIn(tasks.read_recording.name, app.tasks)
        self.assertEqual(tasks.read_recording.queue, "recordings")
        self.assertEqual(tasks.begin_anew.queueing_lock, "begin_anew")

    def test_one_recording_is_one_task_and_none_when_it_was_refused(self) -> None:
        self.send(log("nothing"))
        self.send(b"")
        (asked,) = self.queue.jobs.values()
        self.assertEqual(asked["task_name"], "noise_finder.read_recording")
        self.assertEqual(asked["args"], {"recording_id": Recording.objects.get().pk})

    def test_what_goes_wrong_stays_said(self) -> None:
        sent = self.send(b"time,x\n" + b"1.0,2.0\n" * 400).json()
        self.work()
        RecordingReading.objects.update(bytes_read=3)
        self.work()  # a second time changes nothing
        found = self.call("get", f"/recordings/{sent['id']}").json()
        self.assertEqual(found["state"], "failed")
        self.assertIn("same time", found["error"])
        self.assertIsNone(found["chart"])
