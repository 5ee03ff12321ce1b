"""A vehicle goes back to its owner: the page, its calendar, and what comes due by day or by odometer."""

from __future__ import annotations

import json
from datetime import timedelta
from typing import Any

from django.db import IntegrityError, transaction
from django.utils import timezone
from icalendar import Calendar

from hand_over.models import FollowUp, HandOver
from hand_over.services import due_now
from jobs.models import Job
from test_support.api_case import API, ApiTestCase
from test_support.finished import finished_job
from work.models import StepRecord


class HandingOver(ApiTestCase):
    def signed(self, **more: Any) -> str:
        job = finished_job(self.who["isla"], **more)
        self.assertEqual(self.post(f"/work/{job}/sign-off", {}, by="greta").status_code, 201)
        return job

    def give(self, job: str, **more: Any) -> Any:
        body = {"odometer": "81260", "received_by": "A. Postmistress", "guarantee": "Two years on the gear set", **more}
        return self.post(f"/jobs/{job}/hand-over", body, by="callum")

    def test_not_before_everything_is_signed_and_not_to_nobody(self) -> None:
        job = finished_job(self.who["isla"])
        self.assert_refused(self.give(job), 422, "not_ready", words="not every piece of work".capitalize())
        self.assertEqual(self.post(f"/work/{job}/sign-off", {}, by="greta").status_code, 201)
        self.assert_refused(self.give(job, received_by=" "), 422, "bad_input", field="received_by")
        self.assert_refused(self.give(job, odometer="8126"), 422, "odometer_backwards", field="odometer")
        self.assert_refused(self.post(f"/jobs/{job}/hand-over", {"odometer": "1", "received_by": "x"}, by="visitor"), 403, "not_allowed")
        self.assertEqual(HandOver.objects.count(), 0)

    def test_the_page_says_what_was_done_and_what_comes_next_and_stays_so(self) -> None:
        job = self.signed()
        before = self.client_of("isla").get(f"{API}/jobs/{job}/hand-over.html").content.decode()
        self.assertIn("Not handed over yet", before)
        reply = self.give(job, not_done="Worn front tyres: declined")
        self.assertEqual(reply.status_code, 201, reply.content)
        page = self.client_of("isla").get(f"{API}/jobs/{job}/hand-over.html").content.decode()
        for words in (
            "to A. Postmistress",
            "Worn front tyres: declined",
            "Two years on the gear set",
            "Torque the wheel nuts again, by hand.",
            "Between 81 310 and 81 360 km".replace(" 3", "\u20093"),
            "Until 82\u2009060 km",
            "a soft brake pedal",
            "rotating torque 2.10 Nm",
        ):
            with self.subTest(words):
                self.assertIn(words, page)
        Job.objects.filter(pk=job).update(complaint="Something else")
        self.assertNotIn("Something else", self.client_of("isla").get(f"{API}/jobs/{job}/hand-over.html").content.decode())
        self.assertTrue(self.client_of("isla").get(f"{API}/jobs/{job}/hand-over.pdf").content.startswith(b"%PDF-"))

    def test_rows_are_never_changed(self) -> None:
        self.give(self.signed())
        for change in (
            lambda: HandOver.objects.update(received_by="Somebody else"),
            lambda: FollowUp.objects.update(text="nothing"),
            lambda: FollowUp.objects.all().delete(),
        ):
            with self.assertRaises(IntegrityError), transaction.atomic():
                change()

    def test_the_calendar_has_the_days_and_the_kilometres(self) -> None:
        job = self.signed()
        self.assert_refused(self.call("get", f"/jobs/{job}/hand-over.ics"), 422, "not_ready")
        self.give(job)
        calendar = Calendar.from_ical(self.client_of("isla").get(f"{API}/jobs/{job}/hand-over.ics").content)
        events = list(calendar.walk("VEVENT"))
        days = [one.decoded("dtstart") for one in events]
        today = timezone.localdate()
        self.assertIn(today, days)
        self.assertIn(today + timedelta(days=1), days)
        self.assertIn("wheel nuts", str(events[-1]["description"]))
        self.assertEqual(len({str(one["uid"]) for one in events}), len(events))

    def test_follow_ups_come_up_by_day_and_by_odometer_and_are_ticked_off_once(self) -> None:
        job = self.signed()
        self.give(job)
        today = timezone.localdate()
        codes = lambda day=None: {one.code for one in due_now(day)}  # noqa: E731
        self.assertEqual(codes(), set())
        self.assertEqual(codes(today + timedelta(days=1)), {"leak_morning"})
        vehicle = Job.objects.get(pk=job).vehicle_id
        self.post(f"/vehicles/{vehicle}/odometer", {"typed": "81330"})
        client = self.client_of("isla")
        with self.assertNumQueries(5):
            rows = client.get(f"{API}/floor/today").json()["due"]
        due = {one["code"]: one for one in rows}
        self.assertIn("wheel_nuts", due)
        self.assertNotIn("no_tow", due)
        path = f"/follow-ups/{due['wheel_nuts']['id']}/end"
        self.assertNotIn("wheel_nuts", {one["code"] for one in self.post(path, {"note": "140 Nm"}).json()["due"]})
        self.assert_refused(self.post(path, {}), 409, "ended_already")
        shown = {one["code"]: one for one in self.call("get", f"/jobs/{job}/hand-over").json()["follow_ups"]}
        self.assertEqual((shown["wheel_nuts"]["ended"], shown["wheel_nuts"]["by_name"]), ("done", "Isla Moray"))


class Today(ApiTestCase):
    def test_clocks_and_promises_stand_on_the_floor(self) -> None:
        job = self.make_job(kind="clutch_packs", axle=None, place="rear_axle", teeth=None, promised_on=timezone.localdate().isoformat())
        self.pass_all(job, until="soak")
        self.post(f"/work/{job}/steps/soak/begin", {"minutes": 30})
        client = self.client_of("isla")
        with self.assertNumQueries(5):
            found = client.get(f"{API}/floor/today").json()
        self.assertEqual(
            [(one["job_id"], one["title"]) for one in found["clocks"]], [(job, "New friction plates soaking in friction modifier")]
        )
        self.assertEqual([one["job_id"] for one in found["promised"]], [job])
        self.post(f"/work/{job}/steps/soak/skip", {"reason": "Soaked before"})
        self.assertEqual(self.call("get", "/floor/today").json()["clocks"], [])
        self.assertEqual(StepRecord.objects.filter(step_code="soak").count(), 2)

    def test_what_is_handed_over_is_told_in_the_page_as_json(self) -> None:
        job = finished_job(self.who["isla"])
        self.post(f"/work/{job}/sign-off", {}, by="greta")
        self.post(f"/jobs/{job}/hand-over", {"odometer": "81260", "received_by": "A"}, by="callum")
        content = json.loads(HandOver.objects.get().text)
        self.assertEqual(content["works"][0]["signed"], True)
        self.assertEqual({one["code"] for one in content["plan"]}, {one.code for one in FollowUp.objects.all()})
