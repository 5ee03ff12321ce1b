"""The day's plan over the shop's hours, and who sets those."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from django.conf import settings
from django.utils import timezone

from accounts.models import ShopHours
from floor.plan import plan_out
from test_support.api_case import API, ApiTestCase

MONDAY = datetime(2026, 11, 30, 8, 0, tzinfo=ZoneInfo(settings.TIME_ZONE))
WEEKDAYS = [{"weekday": day, "from": "08:00", "to": "16:00"} for day in range(5)]


class Plan(ApiTestCase):
    def hours(self, *, by: str = "greta", **more: Any) -> Any:
        return self.call("put", "/shop/hours", {"hours": WEEKDAYS, "hands": 1, "closed": [], **more}, by=by)

    def test_one_person_does_one_thing_after_the_other_and_a_cure_holds_up_its_own_work_alone(self) -> None:
        self.assertEqual(self.hours().status_code, 200)
        first = self.make_job(kind="oil_service", axle=None, place="rear_axle", family="", teeth=None, promised_on="2026-11-30")
        second = self.make_job(kind="speedometer", axle=None, place="vehicle", family="", teeth=None, vehicle="Other")
        rows = {str(one["work_id"]): one for one in plan_out(MONDAY)["works"]}
        begins = sorted((rows[first]["begin"], rows[second]["begin"]))
        self.assertEqual(begins[0], MONDAY)
        self.assertGreater(begins[1], begins[0])
        # an oil service is looked at once more after a night
        self.assertEqual((rows[first]["ready"].date().isoformat(), rows[first]["late"]), ("2026-12-01", True))
        self.assertFalse(rows[second]["late"])

    def test_one_piece_of_work_is_finished_before_a_third_is_begun(self) -> None:
        self.hours()
        card: dict[str, Any] = {"kind": "oil_service", "axle": None, "place": "rear_axle", "family": "", "teeth": None}
        works = [self.make_job(**card, vehicle=f"Van {number}") for number in range(4)]
        rows = {str(one["work_id"]): one for one in plan_out(MONDAY)["works"]}
        first, second, third, fourth = (rows[one] for one in works)
        self.assertLess(first["begin"], second["begin"])
        self.assertLess(second["begin"], first["ready"])  # begun while the first one stands overnight
        self.assertGreaterEqual(third["begin"], first["ready"])
        self.assertGreaterEqual(fourth["begin"], second["ready"])
        self.hours(hands=4)
        self.assertEqual({one["begin"] for one in plan_out(MONDAY)["works"]}, {MONDAY})

    def test_a_closing_day_and_what_waits_are_left_out(self) -> None:
        self.hours(closed=["2026-11-30"])
        work = self.make_job(kind="speedometer", axle=None, place="vehicle", family="", teeth=None)
        self.assertEqual(plan_out(MONDAY)["works"][0]["begin"], MONDAY + timedelta(days=1))
        version = self.call("get", f"/jobs/{work}").json()["version"]
        self.call("patch", f"/jobs/{work}", {"version": version, "waits_for": "parts"})
        self.assertEqual(plan_out(MONDAY)["works"], [])

    def test_who_sets_the_hours_and_what_is_refused(self) -> None:
        self.assert_refused(self.hours(by="isla"), 403, "not_allowed")
        self.assert_refused(self.hours(hours=[{"weekday": 0, "from": "16:00", "to": "08:00"}]), 422, "bad_input", field="hours[0].from")
        self.assert_refused(self.hours(closed=["Christmas"]), 422, "bad_input", field="closed[0]")
        self.assertEqual(ShopHours.objects.count(), 0)
        self.hours(hands=3)
        shown = self.call("get", "/shop/hours").json()
        self.assertEqual((shown["hands"], shown["by_name"], shown["hours"][0]["from"]), (3, "Greta Fell", "08:00"))

    def test_a_fixed_number_of_queries(self) -> None:
        for number in range(3):
            self.make_job(vehicle=f"Van {number}")
        client = self.client_of("isla")
        client.get(f"{API}/floor/plan")
        with self.assertNumQueries(8):  # session, person, hours, works with their records, ways and gear sets, and how long steps took
            found = client.get(f"{API}/floor/plan").json()
        self.assertEqual(len(found["works"]), 3)
        self.assertTrue(all(one["ready"] >= timezone.localtime().strftime("%Y-%m-%d") for one in found["works"]))
