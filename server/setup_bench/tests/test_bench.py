"""The set-up bench: readings as typed, questions, strike-outs, trials, the next move, and nothing ever overwritten."""

from __future__ import annotations

import uuid
from typing import Any

from django.db import IntegrityError, connection, transaction
from django.test.utils import CaptureQueriesContext

from setup_bench.models import BenchFinding, Reading, StrikeOut, Trial
from stores.models import ShimRow
from test_support.api_case import ApiTestCase
from work.models import StepRecord


class Readings(ApiTestCase):
    def setUp(self) -> None:
        self.job = self.make_job()
        self.trial = self.trial_id(self.begin(self.job))

    def live(self) -> list[dict[str, Any]]:
        readings: list[dict[str, Any]] = self.call("get", f"/work/{self.job}/bench").json()["trials"][-1]["readings"]
        return [one for one in readings if one["struck"] is None]

    def test_as_typed_and_converted_stand_side_by_side(self) -> None:
        for typed, by, value, unit in (
            ("8 thou", "isla", 0.2032, "thou"),
            ("0,21 mm", "isla", 0.21, "mm"),
            ("9", "tam", 0.2286, "thou"),
            ("19", "isla", 0.19, "hundredths_mm"),
        ):
            with self.subTest(typed):
                self.assertEqual(self.read(self.trial, typed, by=by).status_code, 201)
                last = Reading.objects.latest("id")
                self.assertAlmostEqual(last.value_mm, value)
                self.assertEqual((last.typed, last.unit), (typed, unit))

    def test_refused_and_nothing_stored(self) -> None:
        for typed, words in (
            ("", "Nothing was typed"),
            ("abc", "does not start with a number"),
            ("-5", "negative"),
            ("3 Nm", "unit of torque"),
            ("900 mm", "cannot be backlash"),
            ("7" * 90, "too long for a reading"),
        ):
            with self.subTest(typed[:8]):
                self.assert_refused(self.read(self.trial, typed), 422, "bad_input", field="typed", words=words)
        self.assertEqual(self.read(self.trial, "9" * 300).status_code, 422)
        self.assertEqual(self.read(self.trial, "20", 360.0).status_code, 422)
        self.assertEqual(Reading.objects.count(), 0)

    def test_an_implausible_bare_number_is_asked_about_with_both_meanings(self) -> None:
        reply = self.read(self.trial, "0.21", by="tam")
        self.assert_refused(reply, 422, "question")
        first, second = reply.json()["question"]["choices"]
        self.assertEqual([first["label"], second["label"]], ["0.21 mm", "0.21 thou"])
        self.assertEqual(Reading.objects.count(), 0)
        self.assertEqual(self.read(self.trial, first["typed"], by="tam").status_code, 201)
        self.assertEqual(self.read(self.trial, second["typed"], 45.0, by="tam", sure=True).status_code, 201)

    def test_a_slipped_decimal_is_asked_about(self) -> None:
        for angle in (0.0, 90.0, 180.0):
            self.read(self.trial, "0.20 mm", angle)
        reply = self.read(self.trial, "2.0 mm", 270.0)
        self.assertEqual(reply.json()["question"]["code"], "slipped_decimal")

    def test_a_retry_after_a_lost_answer_doubles_nothing(self) -> None:
        again = str(uuid.uuid4())
        for _ in range(3):
            self.assertEqual(self.read(self.trial, "20", client_id=again).status_code, 201)
        self.assertEqual(Reading.objects.count(), 1)

    def test_sixty_five_readings(self) -> None:
        row = Trial.objects.get(client_id=self.trial)
        Reading.objects.bulk_create(
            Reading(trial=row, angle_deg=5.0 * k, value_mm=0.2, typed="20", unit="hundredths_mm", by_name="x") for k in range(64)
        )
        self.assert_refused(self.read(self.trial, "20", 355.0), 422, "bad_input", words="64 readings")

    def test_struck_out_stays_visible_and_does_not_count(self) -> None:
        self.read(self.trial, "20")
        self.read(self.trial, "99", 45.0)
        wrong = self.live()[1]["id"]
        self.assert_refused(self.post(f"/readings/{wrong}/strike-out", {"reason": ""}), 422, "bad_input", field="reason")
        reply = self.post(f"/readings/{wrong}/strike-out", {"reason": "stylus slipped"})
        trial = reply.json()["trials"][-1]
        self.assertEqual([one["struck"] and one["struck"]["reason"] for one in trial["readings"]], [None, "stylus slipped"])
        self.assertAlmostEqual(trial["assessment"]["greatest_mm"], 0.20)
        self.post(f"/readings/{wrong}/strike-out", {"reason": "again"})
        self.assertEqual(StrikeOut.objects.count(), 1)

    def test_who_may(self) -> None:
        for by, status in (("callum", 403), ("visitor", 403), ("tam", 201), ("greta", 201)):
            with self.subTest(by):
                before = Reading.objects.count()
                self.assertEqual(self.read(self.trial, "8 thou", by=by).status_code, status)
                self.assertEqual(Reading.objects.count() - before, int(status == 201))

    def test_what_a_text_would_be_is_told_while_it_is_typed(self) -> None:
        for typed, by, value in (
            ("9", "tam", 0.2286),
            ("21", "isla", 0.21),
            ("0,2%20mm", "tam", 0.2),
            ("8 th", "isla", None),
            ("", "isla", None),
        ):
            with self.subTest(typed):
                told = self.call("get", f"/typed-length?typed={typed.replace(' ', '%20')}", by=by).json()["value_mm"]
                self.assertEqual(told if told is None else round(told, 4), value)

    def test_a_trial_or_reading_that_is_not_there(self) -> None:
        self.assert_refused(self.read(str(uuid.uuid4()), "20"), 404, "not_found")
        self.assert_refused(self.post(f"/readings/{uuid.uuid4()}/strike-out", {"reason": "x"}), 404, "not_found")


class NothingIsOverwritten(ApiTestCase):
    def test_update_and_delete_are_refused_by_the_database(self) -> None:
        job = self.make_job()
        self.measured(job)
        self.pass_all(job, until="as_found")
        first = Reading.objects.first()
        assert first is not None
        self.post(f"/readings/{first.client_id}/strike-out", {"reason": "x"})
        for model in (Reading, StrikeOut, Trial, StepRecord):
            row = model.objects.first()
            assert row is not None
            table = model._meta.db_table
            for statement in (f"UPDATE {table} SET by_name = 'somebody else'", f"DELETE FROM {table}"):
                with self.subTest(statement), self.assertRaisesMessage(IntegrityError, "never changed"), transaction.atomic():
                    connection.cursor().execute(statement)

    def test_the_database_refuses_readings_off_the_circle(self) -> None:
        row = Trial.objects.get(client_id=self.trial_id(self.begin(self.make_job())))
        for wrong in ({"angle_deg": 360.0}, {"value_mm": -0.1}, {"value_mm": 11.0}):
            with self.subTest(str(wrong)), self.assertRaises(IntegrityError), transaction.atomic():
                Reading.objects.create(
                    **{"trial": row, "angle_deg": 0.0, "value_mm": 0.2, "typed": "20", "unit": "mm", "by_name": "x", **wrong}
                )


class Trials(ApiTestCase):
    def drawer(self, thickness: str) -> int:
        return ShimRow.objects.get(family__code="corrie-ls19", place="side", thickness_mm=thickness).count

    def best(self, job: str) -> dict[str, Any]:
        """The first proposal."""
        found: dict[str, Any] = self.call("get", f"/work/{job}/advice").json()["advice"]["proposals"][0]
        return found

    def carry_out(self, job: str, move: dict[str, Any], *, after: int) -> Any:
        """Begin the trial that a proposal asks for, out of the drawer."""
        stacks = {"depth": move["typed_depth"], "from_drawer": True}
        return self.begin(job, move["typed_ring_side"], move["typed_far_side"], after=after, **stacks)

    def test_too_tight_moves_the_ring_away_with_shims_of_the_drawer(self) -> None:
        job = self.make_job()
        self.measured(job, "0.10 mm")
        move = self.best(job)
        self.assertGreater(move["place"]["ring_mm"], self.call("get", f"/work/{job}/advice").json()["advice"]["estimate"]["ring_mm"])
        self.assertTrue(0.13 < move["expected"]["backlash_mm"] < 0.20)
        before = self.drawer("4.5")
        reply = self.carry_out(job, move, after=1)
        self.assertEqual(reply.status_code, 201, reply.content)
        second = reply.json()["trials"][1]
        self.assertAlmostEqual(second["expected"]["backlash_mm"], move["expected"]["backlash_mm"], places=5)
        self.assertEqual(second["expected"]["odds_percent"], move["odds_percent"])
        self.assertIsNone(second["expected"]["landed"])
        self.assertAlmostEqual(second["ring_side_mm"], move["ring_side_mm"])
        used = [one["thickness_mm"] for one in (*move["ring_side"], *move["far_side"])]
        self.assertEqual(self.drawer("4.5") - before, 1 - used.count(4.5))

    def test_what_was_said_stands_beside_what_happened(self) -> None:
        job = self.make_job()
        self.measured(job, "0.10 mm")
        second = self.trial_id(self.carry_out(job, self.best(job), after=1))
        self.confirm(second)
        self.read_all(second)
        said = self.call("get", f"/work/{job}/bench").json()["trials"][1]["expected"]
        self.assertIs(said["landed"], True)
        kept = self.call("get", "/odds-kept").json()
        self.assertEqual([(one["percent"], one["moves"], one["landed"]) for one in kept], [(said["odds_percent"], 1, 1)])

    def test_a_shim_that_somebody_else_took_is_said(self) -> None:
        job = self.make_job()
        self.measured(job, "0.10 mm")
        move = self.best(job)
        ShimRow.objects.filter(family__code="corrie-ls19").update(count=0)
        self.assert_refused(self.carry_out(job, move, after=1), 409, "stock_changed")
        self.assertEqual(Trial.objects.count(), 1)

    def test_depth_shims_go_back_into_their_own_drawer(self) -> None:
        job = self.make_job()
        self.begin(job, depth="0.80 mm")

        def lying() -> dict[str, int]:
            rows = ShimRow.objects.filter(family__code="corrie-ls19", place="depth")
            return {f"{row.thickness_mm:.2f}": row.count for row in rows}

        before = lying()
        reply = self.begin(job, depth="0.70 mm + 0.05 mm", after=1, from_drawer=True)
        self.assertAlmostEqual(reply.json()["trials"][1]["depth_shim_mm"], 0.75)
        after = lying()
        self.assertEqual((after["0.80"] - before["0.80"], after["0.70"] - before["0.70"], after["0.05"] - before["0.05"]), (1, -1, -1))
        stayed = self.begin(job, after=2).json()["trials"][2]
        self.assertAlmostEqual(stayed["depth_shim_mm"], 0.75)

    def test_two_people_beginning_the_next_trial(self) -> None:
        job = self.make_job()
        self.measured(job)
        self.assertEqual(self.begin(job, after=1).status_code, 201)
        self.assert_refused(self.begin(job, after=1), 409, "newer_trial")

    def test_a_retry_begins_one_trial(self) -> None:
        job, again = self.make_job(), str(uuid.uuid4())
        for _ in range(2):
            self.assertEqual(self.begin(job, client_id=again).status_code, 201)
        self.assertEqual(Trial.objects.count(), 1)

    def test_stacks_that_cannot_be(self) -> None:
        job = self.make_job()
        cases = [
            ("", "Nothing was typed"),
            ("4.60 + x", "does not start with a number"),
            ("1.10", "which no shim is"),
            ("1.10 Nm", "unit of torque"),
        ]
        for typed, words in cases:
            with self.subTest(typed):
                self.assert_refused(self.begin(job, typed), 422, "bad_input", field="ring_side", words=words)
        self.assert_refused(self.begin(job, " + ".join(["0.5 mm"] * 9)), 422, "bad_input", words="8 pieces at most")
        self.assertEqual(Trial.objects.count(), 0)

    def test_adjusters_turn_whole_notches(self) -> None:
        job = self.make_job(layout="four_wheel_drive", axle="front", family="brannoch-bf21")
        trial = self.trial_id(
            self.post(f"/work/{job}/trials", {"after": 0, "depth": "0.8 mm", "ring_side_notches": 0, "far_side_notches": 0})
        )
        self.confirm(trial)
        self.read_all(trial, "0.32 mm")
        move = self.best(job)
        self.assertGreater(move["ring_side_notches"], 0)
        self.assertEqual(move["ring_side_notches"], -move["far_side_notches"])
        self.assertIsNone(move["ring_side"])
        self.assert_refused(self.post(f"/work/{job}/trials", {"after": 1, "ring_side": "1 mm", "far_side": "1 mm"}), 422, "bad_input")

    def test_cover_shims_move_the_other_way(self) -> None:
        job = self.make_job(family="ostrel-ir20", teeth=(10, 37))
        trial = self.trial_id(self.begin(job, "0.35 mm", "0.45 mm"))
        self.confirm(trial)
        self.read_all(trial, "0.25 mm")
        move = self.best(job)
        self.assertLess(move["ring_side_mm"], 0.35)
        self.assertLess(move["expected"]["backlash_mm"], 0.2)


class WhatComesNext(ApiTestCase):
    def kind(self, job: str) -> str:
        return str(self.call("get", f"/work/{job}/advice").json()["kind"])

    def test_in_the_window_is_finished(self) -> None:
        job = self.make_job()
        self.measured(job)
        self.assertEqual(self.kind(job), "finished")
        row = BenchFinding.objects.get(work_id=job)
        self.assertEqual((row.backlash, row.pattern), ("in", "in"))
        self.assertIn("since the final assembly", row.missing)

    def test_the_housing_is_looked_at_before_readings_count(self) -> None:
        job = self.make_job()
        self.assertEqual(self.kind(job), "begin")
        trial = self.trial_id(self.begin(job))
        self.read_all(trial)
        self.assertEqual(self.kind(job), "conditions")
        self.assertEqual(BenchFinding.objects.get(work_id=job).backlash, "unknown")
        again = str(uuid.uuid4())
        for _ in range(2):
            self.assertEqual(self.post(f"/trials/{trial}/conditions", {"client_id": again}).status_code, 201)
        self.assertEqual(self.kind(job), "finished")
        self.assertEqual(BenchFinding.objects.get(work_id=job).backlash, "in")

    def test_what_one_more_reading_would_buy(self) -> None:
        job = self.make_job()
        trial = self.trial_id(self.begin(job))
        self.confirm(trial)
        self.read(trial, "0.10 mm")
        found = self.call("get", f"/work/{job}/advice").json()
        self.assertEqual(found["kind"], "measure")
        self.assertRegex(
            found["advice"]["next_reading"]["text"], r"^Paint the (drive|coast) side: it would make the .* \d+ % more certain\.$"
        )

    def test_runout_is_looked_for_before_any_shim_is_moved(self) -> None:
        job = self.make_job()
        trial = self.trial_id(self.begin(job))
        self.confirm(trial)
        for place, typed in enumerate(("0.10 mm", "0.12 mm", "0.17 mm", "0.21 mm", "0.23 mm", "0.21 mm", "0.17 mm", "0.12 mm")):
            self.read(trial, typed, 45.0 * place)
        found = self.call("get", f"/work/{job}/advice").json()
        self.assertEqual((found["kind"], found["advice"]["proposals"]), ("not_by_shims", []))
        self.assertIn("dirt", found["advice"]["look_for"][0])

    def test_a_set_that_is_not_identified(self) -> None:
        job = self.make_job(teeth=None)
        self.measured(job, "0.10 mm")
        self.assertEqual(self.kind(job), "identify")

    def test_a_fixed_number_of_queries_however_many_trials(self) -> None:
        job, client = self.make_job(), self.client_of("isla")
        self.measured(job)
        for after in (1, 2):
            self.read(self.trial_id(self.begin(job, after=after)), "0.17 mm")
        for what in ("bench", "advice"):
            with self.assertNumQueries(4):  # session, person, whose, all that hangs on the work
                client.get(f"/api/v1/work/{job}/{what}")

    def test_a_reading_costs_the_same_however_many_trials(self) -> None:
        job = self.make_job()
        trial = self.measured(job)
        counts = []
        for after in (1, 2, 3):
            client = self.client_of("isla")
            body = {"client_id": str(uuid.uuid4()), "angle_deg": 0.0, "typed": "0.17 mm"}
            with CaptureQueriesContext(connection) as asked:
                reply = client.post(f"/api/v1/trials/{trial}/readings", body, content_type="application/json")
            self.assertEqual(reply.status_code, 201)
            counts.append(sum("SAVEPOINT" not in (one["sql"] or "") for one in asked.captured_queries))
            trial = self.trial_id(self.begin(job, after=after))
            self.confirm(trial)
            self.read(trial, "0.17 mm")
        self.assertEqual(len(set(counts)), 1, counts)
        self.assertLess(counts[0], 10)
