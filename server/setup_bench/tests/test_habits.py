"""What the shop's own jobs teach the advice: how well people read a patch, how long a move and a reading take."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.db import connection
from django.utils import timezone

from amber_core.setup.question import Costs
from setup_bench.habits import costs_here, readers_of
from setup_bench.models import PatternReading, Trial
from test_support.api_case import ApiTestCase
from work.models import Work


class Habits(ApiTestCase):
    def setUp(self) -> None:
        self.job = self.make_job()
        self.trial = self.measured(self.job)
        self.here = Work.objects.get(pk=self.job)

    def elsewhere(self, *places: float, by: str = "isla", **more: Any) -> None:
        """A patch on another job, read so often by one person."""
        trial = self.trial_id(self.begin(self.make_job()))
        for u in places:
            self.paint(trial, u=u, by=by, **more)

    def test_repeats_on_other_work_teach_how_well_somebody_reads(self) -> None:
        self.elsewhere(0.50, 0.52)
        self.elsewhere(0.40, 0.40, 0.43)
        self.elsewhere(0.50, 0.50, by="tam")
        self.elsewhere(0.50)  # read once: it teaches nothing
        self.paint(self.trial, u=0.9)  # of this very work: the estimate has it itself
        (isla,) = readers_of({str(self.who["isla"])}, self.here)
        self.assertEqual((isla.how, isla.repeats), ("eye", 3))
        squares = (0.52 - 0.50) ** 2 / 2.0 + 2.0 * 0.01**2 + 0.02**2
        self.assertAlmostEqual(isla.sd_u, (squares / 3.0) ** 0.5, places=6)

    def test_a_reading_that_was_put_right_teaches_nothing(self) -> None:
        trial = self.trial_id(self.begin(self.make_job()))
        wrong = self.paint(trial, u=0.9).json()["trials"][-1]["drive"]["id"]
        self.paint(trial, u=0.5, replaces=wrong)
        self.assertEqual(readers_of({str(self.who["isla"])}, self.here), [])

    def test_the_usual_minutes_until_there_are_enough_of_the_shops_own(self) -> None:
        self.assertEqual(costs_here(), (Costs(), []))
        jobs = [self.make_job() for _ in range(6)]
        for job in jobs:
            for after in range(4):
                trial = self.trial_id(self.begin(job, after=after))
                self.paint(trial)
                self.paint(trial)
        # rows are never changed: the clock of the shop is set back in the database itself
        with connection.cursor() as cursor:
            cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
            for table in ("setup_bench_trial", "setup_bench_patternreading"):
                cursor.execute(f"ALTER TABLE {table} DISABLE TRIGGER USER")
            began = timezone.now() - timedelta(days=1)
            for count, row in enumerate(Trial.objects.filter(work_id__in=jobs).order_by("work", "number")):
                at = began + timedelta(minutes=70 * row.number)
                Trial.objects.filter(pk=row.pk).update(at=at)
                first, second = PatternReading.objects.filter(trial=row).order_by("id")
                PatternReading.objects.filter(pk=first.pk).update(at=at + timedelta(minutes=4))
                PatternReading.objects.filter(pk=second.pk).update(at=at + timedelta(minutes=10 + count % 2))
            for table in ("setup_bench_trial", "setup_bench_patternreading"):
                cursor.execute(f"ALTER TABLE {table} ENABLE TRIGGER USER")
        costs, learnt = costs_here()
        self.assertEqual(learnt, ["move_minutes", "read_minutes"])
        self.assertEqual((costs.move_minutes, costs.read_minutes, costs.wrong_minutes), (60.0, 6.0, 600.0))

    def test_the_advice_says_what_each_act_takes_and_brings(self) -> None:
        found = self.call("get", f"/work/{self.job}/advice").json()
        body = found["advice"]
        self.assertEqual(body["acts"][0]["act"], found["kind"])
        self.assertIn("% likely to be in as it stands", body["why"])
        self.assertIn("takes 8 minutes; a move takes 45", body["why"])
        self.assertEqual((body["costs"]["move_minutes"], body["costs"]["learnt"]), (45.0, []))
