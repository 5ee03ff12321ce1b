"""One envelope for every write: an id is bound to its place, its person and its content, and what cannot be answered is not stored."""

from __future__ import annotations

import uuid
from typing import Any
from unittest import mock

from django.core.files.uploadedfile import SimpleUploadedFile

from records.models import Write
from setup_bench.models import PatternPhoto, Reading, StrikeOut, Trial
from test_support.api_case import API, ApiTestCase, picture
from test_support.finished import finished_job


class AnEnvelope(ApiTestCase):
    def setUp(self) -> None:
        self.job = self.make_job()
        self.trial = self.trial_id(self.begin(self.job))
        self.path = f"/trials/{self.trial}/readings"
        self.sent: dict[str, Any] = {"client_id": str(uuid.uuid4()), "angle_deg": 0.0, "typed": "8"}

    def test_it_keeps_who_when_with_what_and_in_which_unit(self) -> None:
        told = {
            "device": "bay-2",
            "written_at": "2026-11-27T08:00:00Z",
            "person": "isla",
            "length_unit": "hundredths_mm",
            "torque_unit": "nm",
        }
        self.assertEqual(self.call("post", self.path, {**self.sent, **told}).status_code, 201)
        kept = Write.objects.get(pk=self.sent["client_id"])
        self.assertEqual(
            (kept.by_name, kept.device, kept.length_unit, kept.command), ("Isla Moray", "bay-2", "hundredths_mm", "reading_record")
        )
        self.assertEqual(kept.written_at.isoformat() if kept.written_at else "", "2026-11-27T08:00:00+00:00")

    def test_a_device_whose_clock_is_years_off_loses_no_reading(self) -> None:
        for at in ("0130-04-13T15:41:50+19:52", "1970-01-01T00:00:00Z", "9999-12-31T23:59:59Z"):
            with self.subTest(at):
                sent = {**self.sent, "client_id": str(uuid.uuid4()), "written_at": at}
                self.assertEqual(self.call("post", self.path, sent).status_code, 201)
                self.assertIsNone(Write.objects.get(pk=sent["client_id"]).written_at)

    def test_the_same_again_has_the_first_answer_and_another_content_is_refused(self) -> None:
        for _ in range(2):
            self.assertEqual(self.call("post", self.path, self.sent).status_code, 201)
        self.assert_refused(
            self.call("post", self.path, {**self.sent, "typed": "9"}), 409, "id_reused", words="already stored under this id"
        )
        other = self.make_job(vehicle="Other van")
        elsewhere = f"/trials/{self.trial_id(self.begin(other))}/readings"
        self.assert_refused(self.call("post", elsewhere, self.sent), 409, "id_reused")
        self.assert_refused(self.call("post", f"/trials/{self.trial}/conditions", {"client_id": self.sent["client_id"]}), 409, "id_reused")
        self.assertEqual([row.typed for row in Reading.objects.all()], ["8"])

    def test_a_retry_after_the_sign_off_is_answered_and_a_new_write_is_not(self) -> None:
        job = finished_job(self.who["isla"])
        path = f"/trials/{Trial.objects.filter(work_id=job).latest('number').client_id}/readings"
        again = {"client_id": str(uuid.uuid4()), "angle_deg": 0.0, "typed": "0.17 mm"}
        self.assertEqual(self.call("post", path, again).status_code, 201)
        self.assertEqual(self.post(f"/work/{job}/sign-off", {}, by="greta").status_code, 201)
        count = Reading.objects.count()
        self.assertEqual(self.call("post", path, again).status_code, 201)
        self.assert_refused(self.post(path, {"angle_deg": 0.0, "typed": "0.17 mm"}), 409, "signed_off")
        self.assertEqual(Reading.objects.count(), count)

    def test_a_waiting_reading_is_in_the_unit_it_was_written_in_whoever_sends_it(self) -> None:
        """`8` is hundredths of a millimetre for Isla and thousandths of an inch for Tam."""
        for by, unit, value in (
            ("isla", "hundredths_mm", 0.08),
            ("isla", "thou", 0.2032),
            ("tam", "", 0.2032),
            ("tam", "hundredths_mm", 0.08),
        ):
            with self.subTest(by, unit=unit):
                sent = {**self.sent, "client_id": str(uuid.uuid4()), **({"length_unit": unit} if unit else {})}
                reply = self.call("post", self.path, sent, by=by)
                kept = Reading.objects.filter(client_id=sent["client_id"]).first()
                self.assertEqual((reply.status_code, kept and round(kept.value_mm, 4)), (201, value))

    def test_what_another_person_wrote_waits_for_them(self) -> None:
        waiting = {**self.sent, "person": "isla", "length_unit": "hundredths_mm"}
        reply = self.call("post", self.path, waiting, by="tam")
        self.assert_refused(reply, 409, "other_person", words="It waits until isla signs in here")
        self.assertEqual((Reading.objects.count(), Write.objects.filter(pk=self.sent["client_id"]).count()), (0, 0))
        self.assertEqual(self.call("post", self.path, waiting, by="isla").status_code, 201)
        self.assertEqual(Reading.objects.get().by_name, "Isla Moray")

    def test_what_cannot_be_answered_is_not_stored(self) -> None:
        with (
            mock.patch("setup_bench.api.bench_out", side_effect=RuntimeError("out of order")),
            self.assertLogs("config.api", "ERROR"),
            self.assertLogs("django.request", "ERROR"),
        ):
            reply = self.call("post", self.path, self.sent)
        self.assert_refused(reply, 500, "failed", words="nothing was stored")
        self.assertEqual((Reading.objects.count(), Write.objects.filter(pk=self.sent["client_id"]).count()), (0, 0))
        self.assertEqual(self.call("post", self.path, self.sent).status_code, 201)

    def test_an_id_from_before_envelopes_is_not_an_error_of_the_server(self) -> None:
        old = {"trial": Trial.objects.get(client_id=self.trial), "typed": "8", "value_mm": 0.08, "unit": "hundredths_mm", "angle_deg": 0.0}
        Reading.objects.create(client_id=self.sent["client_id"], by_name="Isla Moray", **old)
        self.assert_refused(self.call("post", self.path, self.sent), 409, "id_reused", words="Load the page again")

    def test_the_id_of_a_photo_is_bound_to_its_picture(self) -> None:
        client_id = str(uuid.uuid4())

        def send(content: bytes, flank: str = "drive") -> Any:
            file = SimpleUploadedFile("tooth.jpg", content, "image/jpeg")
            path = f"{API}/trials/{self.trial}/photos"
            return self.client_of("isla").post(path, {"client_id": client_id, "flank": flank, "file": file})

        for _ in range(2):
            self.assertEqual(send(picture()).status_code, 201)
        self.assert_refused(send(picture(size=(9, 9))), 409, "id_reused")
        self.assert_refused(send(picture(), "coast"), 409, "id_reused")
        self.assertEqual(PatternPhoto.objects.count(), 1)

    def test_striking_out_is_bound_to_its_reading(self) -> None:
        self.call("post", self.path, self.sent)
        body = {"client_id": str(uuid.uuid4()), "reason": "slipped"}
        path = f"/readings/{self.sent['client_id']}/strike-out"
        for _ in range(2):
            self.assertEqual(self.call("post", path, body).status_code, 201)
        self.assert_refused(self.call("post", path, {**body, "reason": "bumped"}), 409, "id_reused")
        self.assertEqual([row.reason for row in StrikeOut.objects.all()], ["slipped"])
