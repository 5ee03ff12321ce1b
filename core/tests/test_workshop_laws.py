"""Torque sequences, schedules, quotes, run-in and road checks: what holds whatever is given."""

from __future__ import annotations

from datetime import datetime, timedelta
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from amber_core import registry
from amber_core.errors import InvalidInput
from amber_core.fasteners.sequence import TorquePlanQuestion, plan_torque
from amber_core.planning.quote import PartLine, QuoteQuestion, QuoteWay, compare_quotes
from amber_core.planning.schedule import OpeningHours, PlannedStep, Schedule, ScheduleQuestion, schedule_job
from amber_core.road_test.run_in import GivenRule, RunInQuestion, plan_run_in

WEEK = [OpeningHours(weekday=day, from_=a, to=b) for day in range(5) for a, b in (("07:30", "12:00"), ("12:30", "16:30"))]
START = "2026-11-26T10:15"


def refused(name: str, **payload: object) -> str:
    try:
        registry.run(name, payload)
    except InvalidInput as wrong:
        return wrong.field
    raise AssertionError(f"{name} took {payload}")


class Sequences(TestCase):
    @given(st.integers(1, 200), st.sampled_from(["circle", "row"]))
    def test_every_bolt_once(self, count: int, layout: str) -> None:
        order = plan_torque(TorquePlanQuestion(count=count, target_nm=50.0, layout=layout)).order  # type: ignore[arg-type]
        self.assertEqual(sorted(order), list(range(1, count + 1)))

    @given(st.integers(2, 50))
    def test_an_even_circle_goes_from_a_bolt_to_its_opposite(self, half: int) -> None:
        order = plan_torque(TorquePlanQuestion(count=2 * half, target_nm=50.0)).order
        for first, second in zip(order[::2], order[1::2], strict=True):
            self.assertEqual(abs(first - second), half)

    def test_the_wrench_is_set_lower_with_an_adapter_straight_out_and_the_same_square_to_it(self) -> None:
        straight, square = (
            plan_torque(TorquePlanQuestion(count=4, target_nm=100.0, wrench_mm=400.0, adapter_mm=100.0, adapter_angle_deg=angle))
            for angle in (0.0, 90.0)
        )
        self.assertAlmostEqual(straight.stages[-1].setting_nm or 0.0, 80.0)
        self.assertAlmostEqual(square.stages[-1].setting_nm or 0.0, 100.0)

    def test_what_is_refused(self) -> None:
        self.assertEqual(refused("torque.plan", target_nm=50), "count")
        self.assertEqual(refused("torque.plan", target_nm=50, points_mm=[[0, 1], [1, 0]], layout="row"), "layout")
        self.assertEqual(refused("torque.plan", target_nm=50, count=4, stages=[0.8, 0.5]), "stages")
        back = {"wrench_mm": 100, "adapter_mm": 150, "adapter_angle_deg": 180}
        self.assertEqual(refused("torque.plan", target_nm=50, count=4, **back), "adapter_angle_deg")


steps = st.lists(
    st.tuples(st.integers(1, 900), st.integers(0, 2000), st.sets(st.integers(0, 7)), st.none() | st.integers(0, 20_000)),
    min_size=1,
    max_size=8,
)


class Schedules(TestCase):
    def laid(self, rows: list[tuple[int, int, set[int], int | None]], hands: int) -> tuple[list[PlannedStep], Schedule]:
        start = datetime.fromisoformat(START)
        planned = [
            PlannedStep(
                code=f"s{index}",
                minutes=minutes,
                wait_minutes=wait,
                after=[f"s{one}" for one in sorted(after) if one < index],
                not_before=None if late is None else (start + timedelta(minutes=late)).isoformat(timespec="minutes"),
            )
            for index, (minutes, wait, after, late) in enumerate(rows)
        ]
        return planned, schedule_job(ScheduleQuestion(start=START, hours=WEEK, hands=hands, steps=planned))

    @settings(max_examples=60)
    @given(steps, st.integers(1, 3))
    def test_nothing_begins_early_and_no_hand_does_two_things(self, rows: list[tuple[int, int, set[int], int | None]], hands: int) -> None:
        planned, found = self.laid(rows, hands)
        at = {one.code: one for one in found.steps}
        for step in planned:
            begin = at[step.code].begin
            self.assertGreaterEqual(begin, max([START, step.not_before or START, *(at[code].free_at for code in step.after)]))
            self.assertTrue(any(one.from_ <= begin[11:] < one.to for one in WEEK), begin)
            self.assertLess(datetime.fromisoformat(begin).weekday(), 5)
        for moment in [one.begin for one in found.steps]:
            self.assertLessEqual(sum(one.begin <= moment < one.end for one in found.steps), hands)
        self.assertEqual(found.ready_at, max(one.free_at for one in found.steps))
        self.assertEqual(at[found.critical[-1]].free_at, found.ready_at)
        begins = [at[code].begin for code in found.critical]
        self.assertEqual(begins, sorted(begins))
        self.assertGreaterEqual(found.waiting_minutes, 0)

    def test_nothing_begins_on_a_closing_day(self) -> None:
        step = [PlannedStep(code="a", minutes=60)]
        question = ScheduleQuestion(start=START, hours=WEEK, hands=1, steps=step, closed=["2026-11-26", "2026-11-27", "2026-12-25"])
        self.assertEqual(schedule_job(question).steps[0].begin, "2026-11-30T07:30")
        hours = [{"weekday": 0, "from": "08:00", "to": "16:00"}]
        wrong = {"start": START, "hours": hours, "hands": 1, "steps": [{"code": "a", "minutes": 5}], "closed": ["Christmas"]}
        self.assertEqual(refused("job.schedule", **wrong), "closed[0]")

    def test_a_year_away_is_named_and_slips_are_refused(self) -> None:
        _, found = self.laid([(10, 0, set(), 600_000)], 1)
        self.assertEqual([one.code for one in found.problems], ["far_away"])
        one = {"code": "a", "minutes": 5}
        hours = [{"weekday": 0, "from": "08:00", "to": "16:00"}]
        for field, change in (
            ("hours[0].from", {"hours": [{"weekday": 0, "from": "16:00", "to": "08:00"}]}),
            ("hours[0].to", {"hours": [{"weekday": 0, "from": "08:00", "to": "8 pm"}]}),
            ("hours", {"hours": hours * 2}),
            ("start", {"start": "2026-11-26T10:15+01:00"}),
            ("steps[0].after[0]", {"steps": [{**one, "after": ["b"]}]}),
            ("steps[1].code", {"steps": [one, one]}),
            ("steps", {"steps": [{**one, "after": ["a"]}]}),
        ):
            with self.subTest(field):
                self.assertEqual(refused("job.schedule", **{"start": START, "hours": hours, "hands": 1, "steps": [one], **change}), field)


class Quotes(TestCase):
    @given(st.integers(0, 100_000), st.floats(0, 5000), st.integers(0, 100_000), st.floats(0, 30), st.integers(0, 100_000))
    def test_the_sums_add_up(self, hourly: int, minutes: float, price: int, tax: float, credit: int) -> None:
        way = QuoteWay(name="one", minutes=minutes, parts=[PartLine(name="part", price=price, count=0.5)], credit=credit)
        found = compare_quotes(QuoteQuestion(hourly=hourly, tax_pct=tax, ways=[way])).ways[0]
        self.assertEqual(found.total, found.parts + found.labour - credit + found.tax)
        self.assertLessEqual(abs(found.labour - hourly * minutes / 60), 0.51)

    def test_half_goes_up_as_it_was_typed(self) -> None:
        way = QuoteWay(
            name="one", minutes=0.0, parts=[PartLine(name="oil", price=5, count=0.1), PartLine(name="felt", price=15, count=0.1)]
        )
        self.assertEqual(compare_quotes(QuoteQuestion(hourly=0, ways=[way])).ways[0].parts, 1 + 2)
        self.assertEqual(refused("quote.compare", hourly=1, ways=[{"name": "a", "minutes": 1, "parts": []}] * 2), "ways[1].name")


class RunIn(TestCase):
    def test_the_supplier_comes_first_and_null_leaves_out(self) -> None:
        question = RunInQuestion(
            fitted=["gears_new"],
            odometer_km=1000.0,
            date="2026-02-28",
            rules={"no_tow": GivenRule(until_km=500.0, text="No trailer for 500 km."), "heat_cycles": None},
        )
        found = {one.code: one for one in plan_run_in(question).items}
        self.assertNotIn("heat_cycles", found)
        self.assertEqual((found["no_tow"].until_km, found["no_tow"].status), (1500.0, "given"))
        self.assertEqual(found["no_tow"].text, "No trailer for 500 km.")
        self.assertEqual(found["leak_morning"].on_date, "2026-03-01")
        self.assertEqual(refused("runin.plan", fitted=[], odometer_km=1, date="2026-02-30"), "date")
        self.assertEqual(refused("runin.plan", fitted=[], odometer_km=1, date="2026-02-28", rules={"oil": None}), "rules.oil")


class OnTheRoad(TestCase):
    def test_half_a_pair_and_a_place_twice_are_refused(self) -> None:
        pairs = [{"shown_kmh": 50, "true_kmh": 47}, {"shown_kmh": 100, "true_kmh": 94}]
        self.assertEqual(refused("speed.check", pairs=pairs, ratio_new=3.7), "ratio_old")
        self.assertEqual(refused("speed.check", pairs=pairs[:1]), "pairs")
        twice = [{"place": "left", "celsius": 40}, {"place": "Left", "celsius": 41}]
        self.assertEqual(refused("heat.judge", ambient_c=20, readings=twice), "readings[1].place")
        self.assertEqual(refused("fluid.plan", capacity_l=0.1, modifier_ml=118), "modifier_ml")

    def test_near_a_limit_is_the_edge(self) -> None:
        found = registry.run("heat.judge", {"ambient_c": 20, "readings": [{"place": "hub", "celsius": 64.5}]})
        self.assertEqual((found["verdict"], found["reasons"]), ("edge", []))
