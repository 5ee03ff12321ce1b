"""Patterns, photos, torques, depth, sleeve, spacer, instruments, and the final reading that opens the hold."""

from __future__ import annotations

import uuid
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import IntegrityError, connection, transaction

from setup_bench.models import Basis, BenchFinding, PatternReading, SleeveStep, TorqueReading
from test_support.api_case import API, ApiTestCase, picture

JPEG = picture()


class Patterns(ApiTestCase):
    def setUp(self) -> None:
        self.job = self.make_job()
        self.trial = self.trial_id(self.begin(self.job))
        self.confirm(self.trial)

    def shown(self) -> dict[str, Any]:
        trial: dict[str, Any] = self.call("get", f"/work/{self.job}/bench").json()["trials"][-1]
        return trial

    def test_one_that_was_drawn_wrongly_is_put_right_and_both_stay(self) -> None:
        self.paint(self.trial, v=0.8)
        self.assertEqual(self.shown()["pattern_verdict"], "out")
        self.assertIn("toward the tip", self.shown()["pattern_reasons"][0]["text"])
        wrong = self.shown()["drive"]["id"]
        self.paint(self.trial, v=0.55, replaces=wrong)
        self.assertEqual((self.shown()["drive"]["v"], self.shown()["pattern_verdict"]), (0.55, "unknown"))  # coast is not read yet
        self.paint(self.trial, "coast")
        self.assertEqual((self.shown()["pattern_verdict"], self.shown()["drive"]["mean"]["count"]), ("in", 1))
        self.assertEqual(PatternReading.objects.count(), 3)
        self.assert_refused(self.paint(self.trial, replaces=wrong), 409, "newer_pattern")
        self.assert_refused(self.paint(self.trial, "coast", replaces=self.shown()["drive"]["id"]), 409, "newer_pattern")

    def test_readings_of_one_patch_count_together(self) -> None:
        self.paint(self.trial, "coast")
        for u, by in ((0.60, "isla"), (0.48, "isla"), (0.51, "tam")):
            self.paint(self.trial, u=u, by=by)
        drive = self.shown()["drive"]
        self.assertEqual(([one["u"] for one in drive["readings"]], drive["mean"]["count"]), ([0.60, 0.48, 0.51], 3))
        self.assertAlmostEqual(drive["mean"]["u"], 0.53, delta=0.01)
        self.assertLess(drive["mean"]["sd_u"], 0.04)
        self.assertEqual(self.shown()["pattern_verdict"], "in")
        self.paint(self.trial, u=0.95)
        self.assertEqual([one["code"] for one in self.shown()["pattern_reasons"]], ["drive_apart"])

    def test_a_patch_takes_no_more_readings_than_it_needs(self) -> None:
        for _ in range(12):
            self.assertEqual(self.paint(self.trial).status_code, 201)
        self.assert_refused(self.paint(self.trial), 422, "bad_input", field="flank", words="12 readings")

    def test_a_patch_that_runs_off_is_out_whatever_its_middle(self) -> None:
        self.paint(self.trial, runs_off=["tip"])
        self.paint(self.trial, "coast", runs_off=["toe"])
        self.assertEqual([one["code"] for one in self.shown()["pattern_reasons"]], ["drive_runs_off"])

    def test_a_patch_off_the_flank_is_refused(self) -> None:
        for wrong in ({"u": 1.2}, {"v": -0.1}, {"length": 0.0}, {"tilt_deg": 120.0}, {"runs_off": ["side"]}, {"flank": "left"}):
            with self.subTest(str(wrong)):
                reply = self.post(f"/trials/{self.trial}/patterns", {**self.patch(), **wrong})
                self.assertEqual(reply.status_code, 422)
        row = PatternReading(trial_id=0, flank="drive", u=2.0, v=0.5, length=0.5, height=0.5, tilt_deg=0.0, by_name="x")
        with self.assertRaises(IntegrityError), transaction.atomic():
            row.save()

    def patch(self) -> dict[str, Any]:
        return {"flank": "drive", "u": 0.5, "v": 0.5, "length": 0.5, "height": 0.5, "tilt_deg": 0.0}

    def send_photo(self, content: bytes, *, by: str = "isla") -> Any:
        fields = {"flank": "drive", "client_id": str(uuid.uuid4()), "file": SimpleUploadedFile("tooth.jpg", content, "image/jpeg")}
        return self.client_of(by).post(f"{API}/trials/{self.trial}/photos", fields)

    def test_a_photo_stands_under_the_pattern(self) -> None:
        kept = self.send_photo(JPEG)
        self.assertEqual(kept.status_code, 201, kept.content)
        photo = kept.json()["id"]
        place = {"x": 0.5, "y": 0.5, "scale": 1.2, "turn_deg": 3.0}
        self.paint(self.trial, photo=photo, photo_place=place)
        self.assertEqual((self.shown()["drive"]["photo"], self.shown()["drive"]["photo_place"]), (photo, place))
        reply = self.call("get", f"/photos/{photo}")
        self.assertEqual((reply["Content-Type"], reply.content), ("image/jpeg", JPEG))
        self.assert_refused(self.paint(self.trial, photo=str(uuid.uuid4())), 422, "bad_input", field="photo")

    def test_what_is_no_picture(self) -> None:
        self.assert_refused(self.send_photo(b"<svg onload=alert(1)>"), 422, "bad_input", field="photo", words="not a picture")
        self.assert_refused(self.send_photo(JPEG + bytes(4 * 2**20)), 413, "too_large")
        self.assert_refused(self.send_photo(JPEG, by="callum"), 403, "not_allowed")

    def test_the_model_shows_the_pattern_of_any_place(self) -> None:
        self.read_all(self.trial)
        deep, shallow = (self.call("get", f"/work/{self.job}/contact?pinion_mm={mm}&ring_mm=0").json() for mm in (-0.1, 0.1))
        self.assertLess(deep["drive"]["v"], shallow["drive"]["v"])
        self.assertEqual(len(deep["drive"]["mask"]), 25)
        self.assertEqual(self.call("get", f"/work/{self.job}/contact?pinion_mm=3").status_code, 422)


class Torques(ApiTestCase):
    def setUp(self) -> None:
        self.job = self.make_job()
        self.trial = self.trial_id(self.begin(self.job))

    def send(self, **more: Any) -> Any:
        usual = {"what": "pinion", "typed": "2.1 Nm", "bearings": "new", "seal": "absent"}
        return self.post(f"/trials/{self.trial}/torques", {**usual, **more})

    def verdict(self, reply: Any) -> str:
        return str(reply.json()["trials"][-1]["pinion_torque"]["verdict"])

    def test_new_and_used_bearings_have_their_own_windows(self) -> None:
        self.assertEqual(self.verdict(self.send()), "in")
        self.assertEqual(self.verdict(self.send(bearings="used")), "out")
        self.assertEqual(self.verdict(self.send(bearings="used", typed="1.1 Nm")), "in")
        self.assertEqual(self.verdict(self.send(bearings="mixed")), "unknown")

    def test_a_fitted_seal_wants_its_drag_said(self) -> None:
        self.assertEqual(self.verdict(self.send(seal="fitted")), "unknown")
        self.assertEqual(self.verdict(self.send(seal="fitted", typed="2.5 Nm", seal_drag="0.4 Nm")), "in")

    def test_a_string_is_as_good_as_a_wrench(self) -> None:
        reply = self.send(typed="42 N", radius="50 mm")
        kept = reply.json()["trials"][-1]["pinion_torque"]
        self.assertAlmostEqual(kept["value_nm"], 2.1)
        self.assertEqual((kept["typed"], kept["unit"], kept["radius_mm"]), ("42 N", "n", 50.0))
        self.assert_refused(self.send(typed="42 Nm", radius="50 mm"), 422, "bad_input", words="unit of torque")

    def test_absurd_ones_are_refused(self) -> None:
        self.assert_refused(self.send(typed="900 Nm"), 422, "bad_input", field="typed", words="Check the unit")
        self.assertEqual(TorqueReading.objects.count(), 0)


class Depth(ApiTestCase):
    def test_a_measured_depth_goes_into_the_estimate(self) -> None:
        job = self.make_job()
        trial = self.trial_id(self.begin(job, depth="0.80 mm"))
        self.confirm(trial)
        reply = self.post(f"/trials/{trial}/depths", {"tool": "face", "reading": "58.52"})
        kept = reply.json()["trials"][-1]["measured_depth"]
        self.assertAlmostEqual(kept["error_mm"], 0.12)
        estimate = self.call("get", f"/work/{job}/advice").json()["advice"]["estimate"]
        self.assertAlmostEqual(estimate["pinion_mm"], 0.12, delta=0.02)
        wrong = self.post(f"/trials/{trial}/depths", {"tool": "bar", "reading": "158.52"})
        self.assert_refused(wrong, 422, "bad_input", field="reading", words="Check the bar")

    def test_a_sheet_without_a_depth_asks_for_it(self) -> None:
        job = self.make_job(family="ostrel-ir20", teeth=(10, 37))
        trial = self.trial_id(self.begin(job, "0.35 mm", "0.45 mm"))
        self.assert_refused(self.post(f"/trials/{trial}/depths", {"tool": "bar", "reading": "60"}), 422, "bad_input", field="nominal")


class Sleeves(ApiTestCase):
    def setUp(self) -> None:
        self.job = self.make_job()

    def step(self, turn: float, typed: str, *, sleeve: int = 1, **more: Any) -> Any:
        body = {"sleeve": sleeve, "nut_turn_deg": turn, "typed": typed, **more}
        return self.post(f"/work/{self.job}/sleeve-steps", body)

    def answer(self, reply: Any) -> dict[str, Any]:
        found: dict[str, Any] = reply.json()["preload"]["sleeve"]["answer"]
        return found

    def test_how_much_further_and_what_when_past(self) -> None:
        self.assertEqual(self.answer(self.step(0, "0.05 Nm"))["state"], "slack")
        self.step(20, "0.05 Nm")
        self.step(30, "0.6 Nm")
        closing = self.answer(self.step(34, "1.0 Nm"))
        self.assertEqual(closing["state"], "closing")
        self.assertTrue(0.0 < closing["next_step_deg"] <= 5.0)
        self.assertEqual(self.answer(self.step(44, "2.0 Nm", nut_torque_nm=240.0))["state"], "in")
        past = self.answer(self.step(54, "3.1 Nm"))
        self.assertEqual((past["state"], past["next_step_deg"]), ("past", 0.0))
        self.assertIn("new crush sleeve", past["reasons"][0]["text"].lower())
        self.assertEqual(self.step(0, "0.2 Nm", sleeve=2).json()["preload"]["sleeve"]["number"], 2)

    def test_the_nut_only_goes_on(self) -> None:
        self.step(20, "0.2 Nm")
        self.assert_refused(self.step(10, "0.2 Nm"), 422, "bad_input", field="nut_turn_deg", words="only goes further on")
        self.assert_refused(self.step(30, "0.2 Nm", sleeve=5), 409, "newer_sleeve")

    def test_a_mistyped_step_is_taken_back_with_a_reason(self) -> None:
        wrong = self.step(20, "9 Nm").json()["preload"]["sleeve"]["steps"][0]["id"]
        path = f"/work/{self.job}/sleeve-steps/{wrong}/take-back"
        self.assert_refused(self.post(path, {"reason": ""}), 422, "bad_input", field="reason")
        sleeve = self.post(path, {"reason": "slipped decimal"}).json()["preload"]["sleeve"]
        self.assertEqual((sleeve["steps"], [one["reason"] for one in sleeve["taken_back"]]), ([], ["slipped decimal"]))
        self.assertEqual(SleeveStep.objects.count(), 2)

    def test_a_nut_that_closes_too_lightly_is_said(self) -> None:
        reply = self.step(40, "2.0 Nm", nut_torque_nm=90.0)
        self.assertTrue(any("sleeve" in one["text"] for one in self.answer(reply)["reasons"]))


class Spacers(ApiTestCase):
    def test_from_play_to_torque_in_two_stacks(self) -> None:
        job = self.make_job(family="brannoch-bf21")

        def send(**body: str) -> dict[str, Any]:
            spacer: dict[str, Any] = self.post(f"/work/{job}/spacer-tries", body).json()["preload"]["spacer"]
            return spacer

        first = send(stack="0.40 mm + 0.10 mm", end_play="0.08 mm")
        self.assertAlmostEqual(first["answer"]["stack_mm"], 0.40, delta=0.02)
        second = send(stack="0.40 mm", torque="2.0 Nm")
        self.assertTrue(second["inside"])
        self.assert_refused(self.post(f"/work/{job}/spacer-tries", {"stack": "0.4 mm"}), 422, "bad_input", words="end play")


class Basics(ApiTestCase):
    def test_a_used_set_goes_back_to_as_found(self) -> None:
        job = self.make_job()
        trial = self.measured(job, "0.27 mm")
        self.assertEqual(self.call("get", f"/work/{job}/advice").json()["kind"], "move")
        start = {"set_state": "used", "drive_flank": "convex", "found_backlash": "0.27 mm", "found_drive_u": 0.48, "found_drive_v": 0.5}
        shown = self.post(f"/work/{job}/basis", start).json()["start"]
        self.assertEqual((shown["set_state"], shown["asked"], round(shown["as_found"]["backlash_mm"], 3)), ("used", True, 0.27))
        # a single reading of a patch is not sure enough of so narrow a window
        self.assertEqual(self.call("get", f"/work/{job}/advice").json()["kind"], "read_again")
        self.read_all(trial, "0.27 mm")
        found = self.call("get", f"/work/{job}/advice").json()
        self.assertEqual(found["kind"], "finished", found["text"])
        self.assertIn("over_new_max", [one["code"] for one in found["advice"]["reasons"]])
        self.assertEqual(Basis.objects.count(), 1)
        bench = self.call("get", f"/work/{job}/bench").json()
        self.assertEqual((bench["trials"][-1]["assessment"]["verdict"], BenchFinding.objects.get(work_id=job).backlash), ("in", "in"))
        self.assertAlmostEqual((bench["min_mm"] + bench["max_mm"]) / 2.0, 0.27)

    def test_the_dial_is_checked_before_it_is_believed(self) -> None:
        job = self.make_job()
        for back, good in (("0 mm", True), ("0.03 mm", False)):
            body = {"zero": "0 mm", "block": "1 mm", "block_read": "1.00 mm", "back": back}
            self.assertIs(self.post(f"/work/{job}/instrument-checks", body).json()["instrument"]["good"], good)

    def test_rows_are_never_changed(self) -> None:
        job = self.make_job()
        trial = self.measured(job)
        self.post(f"/trials/{trial}/torques", {"what": "pinion", "typed": "2 Nm", "bearings": "new", "seal": "absent"})
        for table in ("conditioncheck", "patternreading", "torquereading"):
            with self.subTest(table), self.assertRaisesMessage(IntegrityError, "never changed"), transaction.atomic():
                connection.cursor().execute(f"DELETE FROM setup_bench_{table}")


class TheFinalReading(ApiTestCase):
    job: str

    @classmethod
    def setUpTestData(cls) -> None:
        super().setUpTestData()
        before = cls()
        cls.job = before.make_job()
        before.measured(cls.job)
        before.pass_all(cls.job, until="final_reading")

    def pass_final(self) -> Any:
        return self.post(f"/work/{self.job}/steps/final_reading/pass", {"typed": ""})

    def test_contact_finished_is_not_done(self) -> None:
        self.assert_refused(self.pass_final(), 422, "held", words="since the final assembly")
        trial = self.trial_id(self.begin(self.job, after=1, is_final=True, preload_part="sleeve"))
        self.confirm(trial)
        self.read_all(trial)
        self.assert_refused(self.pass_final(), 422, "held", words="rotating torque")
        for what, typed in (("pinion", "2.1 Nm"), ("total", "2.7 Nm")):
            self.post(f"/trials/{trial}/torques", {"what": what, "typed": typed, "bearings": "new", "seal": "absent"})
        self.assertEqual(self.pass_final().status_code, 201)

    def test_a_final_reading_that_is_out_takes_the_contact_back(self) -> None:
        trial = self.assembled(self.job)
        self.assertEqual(self.pass_final().status_code, 201)
        mistaken = self.call("get", f"/work/{self.job}/bench").json()["trials"][-1]["drive"]["id"]
        self.paint(trial, v=0.85, replaces=mistaken)
        row = BenchFinding.objects.get(work_id=self.job)
        self.assertIn("both contact patterns", row.missing)
        codes = [(one.step_code, one.outcome) for one in row.work.step_records.order_by("-id")[:2]]
        self.assertEqual(sorted(codes), [("final_reading", "taken_back"), ("pattern", "taken_back")])

    def test_set_up_bearings_are_no_final_assembly(self) -> None:
        reply = self.begin(self.job, after=1, is_final=True, bearings="set_up")
        self.assert_refused(reply, 422, "bad_input", field="bearings")


class SetUpBearings(ApiTestCase):
    """Bearings that slide on stand in for the real ones, which differ in height."""

    def bench(self, job: str) -> dict[str, Any]:
        shown: dict[str, Any] = self.call("get", f"/work/{job}/bench").json()
        return shown

    def test_their_offset_is_the_trials_own_and_said_for_the_final_shim(self) -> None:
        job, other = self.make_job(), self.make_job()
        self.begin(other, bearings="set_up", bearing_offset="0.02 mm")
        self.begin(job, bearings="set_up", bearing_offset="0.04 mm")
        shown = self.bench(other)
        self.assertEqual((shown["bearing_offset_mm"], shown["trials"][0]["bearing_offset_mm"]), (0.02, 0.02))
        self.assertIsNone(self.bench(self.make_job())["bearing_offset_mm"])
        again = self.begin(other, after=1, bearings="set_up", depth="0.80 mm").json()
        self.assertEqual(again["trials"][1]["bearing_offset_mm"], 0.02)  # as in this work's trial before
        # real ones stand higher, which pushes the pinion deeper: less shim
        self.assertAlmostEqual(self.bench(job)["depth_with_final_bearings_mm"], 0.76)

    def test_under_a_cartridge_flange_the_sign_turns(self) -> None:
        job = self.make_job(family="halden-hf25", teeth=(8, 41))
        body = {"after": 0, "depth": "0.35 mm", "ring_side_notches": 0, "far_side_notches": 0}
        self.post(f"/work/{job}/trials", {**body, "bearings": "set_up", "bearing_offset": "0.04 mm"})
        self.assertAlmostEqual(self.bench(job)["depth_with_final_bearings_mm"], 0.39)

    def test_an_absurd_offset_is_refused_and_nothing_begun(self) -> None:
        job = self.make_job()
        reply = self.begin(job, bearings="set_up", bearing_offset="4 mm")
        self.assert_refused(reply, 422, "bad_input", field="bearing_offset")
        self.assertEqual(self.bench(job)["trials"], [])

    def test_the_same_place_with_either_bearings_is_the_same_place(self) -> None:
        places = []
        for bearings, shim in (("set_up", "0.80 mm"), ("final", "0.76 mm")):
            job = self.make_job()
            trial = self.trial_id(
                self.begin(job, depth=shim, bearings="set_up" if bearings == "set_up" else "final", bearing_offset="0.04 mm")
            )
            self.confirm(trial)
            self.read_all(trial)
            again = self.trial_id(self.begin(job, after=1, depth="0.76 mm"))
            self.confirm(again)
            self.read_all(again)
            places.append(self.call("get", f"/work/{job}/advice").json()["advice"]["estimate"]["pinion_mm"])
        self.assertAlmostEqual(places[0], places[1], places=4)


class OddsKept(ApiTestCase):
    def test_what_was_said_is_held_against_what_happened(self) -> None:
        job = self.make_job()
        self.measured(job, "0.10 mm")
        best = self.call("get", f"/work/{job}/advice").json()["advice"]["proposals"][0]
        moved = {"ring": best["typed_ring_side"], "far": best["typed_far_side"], "after": 1}
        trial = self.trial_id(self.begin(job, **moved, **({"depth": best["typed_depth"]} if best["typed_depth"] else {})))
        self.assertEqual(self.call("get", "/odds-kept").json(), [])
        self.confirm(trial)
        self.read_all(trial)
        self.assertEqual(self.call("get", "/odds-kept").json(), [{"percent": best["odds_percent"], "moves": 1, "landed": 1}])


class TheRunSheet(ApiTestCase):
    def missing(self, job: str) -> dict[str, str | None]:
        steps = self.call("get", f"/work/{job}").json()["steps"]
        return {step["code"]: step["missing"] for step in steps}

    def test_says_what_the_bench_still_lacks(self) -> None:
        job = self.make_job()
        before = self.missing(job)
        self.assertIn("has not been measured round the ring gear yet", before["backlash"] or "")
        self.assertIn("has not been read on both sides yet", before["pattern"] or "")
        self.assertIsNone(before["oil"])
        self.measured(job)
        after = self.missing(job)
        self.assertEqual((after["backlash"], after["pattern"]), ("", ""))
        self.assertIn("since the final assembly", after["final_reading"] or "")
