"""How long the steps of a kind of work take here."""

from __future__ import annotations

from datetime import datetime, timedelta

from django.utils import timezone

from amber_core.procedures.kinds import KINDS
from test_support.api_case import ApiTestCase
from work.habits import minutes_here
from work.models import Outcome, StepRecord

KIND = "oil_service"
STEPS = [one.step for one in KINDS[KIND].steps if one.step.minutes >= 4 and one.step.act not in ("clock", "wait")]
FIRST, STEP = STEPS[0], STEPS[1]


class Habits(ApiTestCase):
    def passed(self, minutes: list[float], *, by: str = "isla", outcome: str = Outcome.PASSED) -> None:
        """The first step of as many jobs, and so many minutes later the second."""
        began = timezone.now() - timedelta(days=9)
        for number, one in enumerate(minutes):
            work = self.make_job(kind=KIND, axle=None, place="rear_axle", family="", teeth=None)
            self.row(work, FIRST.code, began + timedelta(hours=number), "isla", Outcome.PASSED)
            self.row(work, STEP.code, began + timedelta(hours=number, minutes=one), by, outcome)

    def row(self, work: str, code: str, at: datetime, by: str, outcome: str) -> None:
        note = "not here" if outcome == Outcome.SKIPPED else ""
        StepRecord.objects.create(work_id=work, step_code=code, outcome=outcome, at=at, by=self.who[by], by_name=by, note=note)

    def test_the_median_of_the_last_ten_once_there_are_five(self) -> None:
        usual = STEP.minutes
        self.passed([usual * 1.5] * 4)
        self.assertEqual(minutes_here(), {})
        self.passed([usual * 1.5])
        self.assertEqual(minutes_here(), {(KIND, STEP.code): round(usual * 1.5)})
        self.passed([usual * 2.0] * 10)
        self.assertEqual(minutes_here(KIND)[KIND, STEP.code], usual * 2)
        self.assertEqual(minutes_here("speedometer"), {})
        shown = {one["code"]: one for one in self.call("get", f"/kinds/{KIND}/library").json()["steps"]}
        self.assertEqual((shown[STEP.code]["minutes"], shown[STEP.code]["learnt"], shown[FIRST.code]["learnt"]), (usual, usual * 2, None))

    def test_what_was_ticked_in_one_go_broken_off_skipped_or_anothers_says_nothing(self) -> None:
        usual = STEP.minutes
        self.passed([usual / 5.0] * 6)
        self.passed([usual * 5.0] * 6)
        self.passed([usual] * 6, by="tam")
        self.passed([usual] * 6, outcome=Outcome.SKIPPED)
        self.assertEqual(minutes_here(), {})
