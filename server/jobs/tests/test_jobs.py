"""Jobs: making, changing, two people at once, the gear set, the run sheet with its holds."""

from __future__ import annotations

import uuid

from django.db import IntegrityError, transaction

from jobs.models import Job
from test_support.api_case import ApiTestCase
from work.models import GearSetRecord, StepRecord


class Making(ApiTestCase):
    def test_who_may(self) -> None:
        for by, status in ((None, 401), ("visitor", 403), ("callum", 201), ("isla", 201), ("greta", 201)):
            with self.subTest(by):
                before = Job.objects.count()
                self.assertEqual(self.call("post", "/jobs", self.card(), by=by).status_code, status)
                self.assertEqual(Job.objects.count() - before, int(status == 201))

    def test_a_retry_makes_no_second_job(self) -> None:
        card = self.card()
        first, second = self.call("post", "/jobs", card).json(), self.call("post", "/jobs", card).json()
        self.assertEqual((first["number"], Job.objects.count()), (second["number"], 1))

    def test_it_has_its_driveline(self) -> None:
        card = self.card(layout="four_wheel_drive", axle="front", family="brannoch-bf21")
        stations = self.call("post", "/jobs", card).json()["stations"]
        self.assertEqual(len(stations), 7)
        self.assertEqual([one["place"] for one in stations if one["under_work"]], ["front_axle"])

    def test_refused(self) -> None:
        cases = [
            ({"customer": "  "}, "customer"),
            ({"complaint": "x" * 2001}, "complaint"),
            ({"use": "racing"}, "use"),
            ({"family": "no-such"}, "family"),
            ({"axle": "front"}, "axle"),
            ({"id": "7"}, "id"),
        ]
        for change, field in cases:
            with self.subTest(field):
                reply = self.call("post", "/jobs", self.card(**change))
                self.assertEqual(reply.status_code, 422)
                self.assertEqual(reply.json()["error"]["field"], field)
        self.assertEqual(Job.objects.count(), 0)

    def test_the_database_refuses_a_done_job_that_nobody_signed(self) -> None:
        job = self.make_job()
        with self.assertRaises(IntegrityError), transaction.atomic():
            Job.objects.filter(pk=job).update(state="done")


class Changing(ApiTestCase):
    def test_two_people_at_once(self) -> None:
        job = self.make_job()
        version = self.call("get", f"/jobs/{job}").json()["version"]
        mine = {"version": version, "complaint": "Mine"}
        self.assertEqual(self.call("patch", f"/jobs/{job}", {"version": version, "complaint": "Theirs"}, by="tam").status_code, 200)
        reply = self.call("patch", f"/jobs/{job}", mine)
        self.assert_refused(reply, 409, "conflict")
        theirs = reply.json()["current"]
        self.assertEqual(theirs["complaint"], "Theirs")
        again = self.call("patch", f"/jobs/{job}", {**mine, "version": theirs["version"]})
        self.assertEqual(again.json()["complaint"], "Mine")

    def test_waiting_shows_as_a_state(self) -> None:
        job = self.make_job()
        version = self.call("get", f"/jobs/{job}").json()["version"]
        reply = self.call("patch", f"/jobs/{job}", {"version": version, "waits_for": "parts", "waits_note": "Boat on Thursday"})
        self.assertEqual((reply.json()["state"], reply.json()["waits_word"]), ("waiting", "Parts"))

    def test_the_family_stays_once_trials_are_recorded(self) -> None:
        job = self.make_job()
        self.begin(job)
        version = self.call("get", f"/work/{job}").json()["version"]
        reply = self.call("patch", f"/work/{job}", {"version": version, "family": "ostrel-ir20"})
        self.assert_refused(reply, 422, "bad_input", field="family")

    def test_stations(self) -> None:
        job = self.make_job()
        reply = self.call("put", f"/jobs/{job}/stations/rear_shaft", {"state": "fault", "note": "A notch", "version": 1})
        shaft = next(one for one in reply.json()["stations"] if one["place"] == "rear_shaft")
        self.assertEqual((shaft["word"], shaft["note"]), ("Fault", "A notch"))
        self.assert_refused(self.call("put", f"/jobs/{job}/stations/front_axle", {"state": "good", "version": 1}), 422, "not_found")
        self.assertEqual(self.call("put", f"/jobs/{job}/stations/engine", {"state": "good", "version": 1}, by="callum").status_code, 403)

    def test_a_fixed_number_of_queries(self) -> None:
        job, client = self.make_job(), self.client_of("isla")
        self.pass_all(job, until="backlash")
        with self.assertNumQueries(11):  # session, person, whose, job, stations, their records, ends, works, their parts, sheets, gear sets
            client.get(f"/api/v1/jobs/{job}")
        # session, person, work with all it is about, steps, gear sets, ways; both ends: axle facts, works, parts, gear sets; newest sheet
        with self.assertNumQueries(5):  # session, person, whose, the work, a newer sheet
            client.get(f"/api/v1/work/{job}")

    def test_a_job_that_is_not_there(self) -> None:
        self.assert_refused(self.call("get", f"/jobs/{uuid.uuid4()}"), 404, "not_found")


class TheGearSet(ApiTestCase):
    def test_teeth_with_a_wrong_guess(self) -> None:
        job = self.make_job(teeth=None)
        reply = self.post(f"/work/{job}/gear-set", {"pinion_teeth": 10, "ring_teeth": 41, "guess_ratio": 3.9})
        found = reply.json()["gear_set"]
        self.assertEqual((found["ratio"], found["hunting"], found["guess_agrees"], found["in_family"]), (4.1, "hunting", False, True))

    def test_turns_take_one_of_their_candidates(self) -> None:
        job = self.make_job(teeth=None)
        turns = {"by_turns": True, "pinion_turns": 20.5, "wheel_turns": 10, "other_wheel": "held"}
        self.assert_refused(
            self.post(f"/work/{job}/gear-set", {**turns, "pinion_teeth": 9, "ring_teeth": 37}), 422, "bad_input", field="ring_teeth"
        )
        reply = self.post(f"/work/{job}/gear-set", {**turns, "pinion_teeth": 10, "ring_teeth": 41})
        self.assertAlmostEqual(reply.json()["gear_set"]["counted_ratio"], 4.1)

    def test_a_new_count_is_kept_beside_the_old_one_and_counts(self) -> None:
        job = self.make_job(teeth=(11, 41))
        self.post(f"/work/{job}/gear-set", {"pinion_teeth": 10, "ring_teeth": 41})
        self.assertEqual(self.call("get", f"/work/{job}").json()["gear_set"]["pinion_teeth"], 10)
        self.assertEqual(GearSetRecord.objects.filter(work_id=job).count(), 2)

    def test_refused(self) -> None:
        job = self.make_job(teeth=None)
        self.assert_refused(
            self.post(f"/work/{job}/gear-set", {"pinion_teeth": 41, "ring_teeth": 10}), 422, "bad_input", field="ring_teeth"
        )
        self.assertEqual(self.post(f"/work/{job}/gear-set", {"pinion_teeth": 10, "ring_teeth": 41}, by="callum").status_code, 403)


class TheRunSheet(ApiTestCase):
    def state(self, job: str, code: str) -> str:
        steps = self.call("get", f"/work/{job}").json()["steps"]
        return str(next(step["state"] for step in steps if step["code"] == code))

    def test_a_hold_shuts_everything_after_it(self) -> None:
        job = self.make_job()
        self.pass_all(job, until="stands_and_chocks")
        self.assertEqual(self.state(job, "fill_plug"), "shut")
        self.assert_refused(self.post(f"/work/{job}/steps/fill_plug/pass", {}), 422, "held", words="on axle stands")
        self.assertEqual(self.post(f"/work/{job}/steps/stands_and_chocks/pass", {}).status_code, 201)
        self.assertEqual(self.state(job, "fill_plug"), "open")

    def test_each_act_asks_for_its_own_proof(self) -> None:
        job = self.make_job()
        cases = [
            ("spreader", "0.55", "out_of_window", "0.400 mm"),
            ("spreader", "8 Nm", "bad_input", "unit of torque"),
            ("ring_bolts", "9", "held", "Tick all 10"),
            ("ring_bolts", "many", "held", "Tick all 10"),
            ("backlash", "", "held", "has not been measured"),
            ("preload", "5 Nm", "out_of_window", "2.60 Nm"),
            ("preload", "", "bad_input", "Nothing was typed"),
            ("oil", "0", "bad_input", "more than 0"),
            ("oil", "16", "out_of_window", "1.80 l"),
            ("wheel_nuts", "eighty", "bad_input", "does not start with a number"),
        ]
        for code, typed, refusal, words in cases:
            if code == "preload" and self.state(job, "backlash") != "passed":
                self.measured(job)
            self.pass_all(job, until=code)
            with self.subTest(code, typed=typed):
                self.assert_refused(self.post(f"/work/{job}/steps/{code}/pass", {"typed": typed}), 422, refusal, words=words)

    def test_a_bare_torque_is_in_the_persons_own_unit(self) -> None:
        job = self.make_job()
        self.measured(job)
        self.pass_all(job, until="preload")
        self.call("patch", "/me", {"torque_unit": "inlb"})
        reply = self.post(f"/work/{job}/steps/preload/pass", {"typed": "20"})
        self.assertEqual(next(one["entered"] for one in reply.json()["steps"] if one["code"] == "preload"), "20 inlb")
        self.assertAlmostEqual(StepRecord.objects.get(work_id=job, step_code="preload").value or 0.0, 2.2597, places=3)

    def test_wheel_nuts_are_due_again(self) -> None:
        job = self.make_job()
        self.measured(job)
        self.pass_all(job)
        due = next(one["due"] for one in self.call("get", f"/work/{job}").json()["steps"] if one["code"] == "wheel_nuts")
        self.assertEqual(due, "Torque the wheel nuts again between 81 290 and 81 340 km.")
        self.assertEqual(self.call("get", f"/jobs/{job}").json()["state"], "to_sign")

    def test_a_retry_passes_once(self) -> None:
        job, again = self.make_job(), {"client_id": str(uuid.uuid4())}
        for _ in range(2):
            self.assertEqual(self.post(f"/work/{job}/steps/complaint/pass", again).status_code, 201)
        self.assertEqual(StepRecord.objects.filter(work_id=job).count(), 1)

    def test_taking_back_needs_a_reason_and_keeps_both_rows(self) -> None:
        job = self.make_job()
        self.pass_all(job, until="as_found")
        self.assert_refused(self.post(f"/work/{job}/steps/fill_plug/take-back", {"reason": " "}), 422, "bad_input", field="reason")
        self.assertEqual(self.post(f"/work/{job}/steps/fill_plug/take-back", {"reason": "Wrong plug"}).status_code, 201)
        self.assertEqual(self.state(job, "fill_plug"), "open")
        self.assertEqual(StepRecord.objects.filter(work_id=job, step_code="fill_plug").count(), 2)
        self.assert_refused(self.post(f"/work/{job}/steps/fill_plug/take-back", {"reason": "again"}), 422, "bad_input", field="step")

    def test_a_passed_backlash_falls_back_when_a_reading_puts_it_out(self) -> None:
        job = self.make_job()
        trial = self.measured(job)
        self.pass_all(job, until="pattern")
        self.read(trial, "0.25 mm", 10.0)
        self.assertEqual(self.state(job, "backlash"), "open")

    def test_who_may(self) -> None:
        job = self.make_job()
        for by, status in ((None, 401), ("callum", 403), ("visitor", 403), ("tam", 201)):
            with self.subTest(by):
                self.assertEqual(self.post(f"/work/{job}/steps/complaint/pass", {}, by=by).status_code, status)
