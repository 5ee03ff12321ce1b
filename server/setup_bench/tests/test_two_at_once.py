"""Two people, or one and a late retry, at the same moment: real threads on a real database."""

from __future__ import annotations

import threading
import uuid
from collections.abc import Callable
from typing import Any

from django.db import connection
from django.test import TransactionTestCase

from accounts.models import User
from demo_world import world
from jobs.models import Job, StepRecord
from jobs.services import JobGiven as Given
from jobs.services import create_job, pass_step
from setup_bench.models import Reading, Trial
from setup_bench.services import Setting, begin_trial, record_reading
from shared.refusals import Conflict
from stores.models import ShimRow


def together(*acts: Callable[[], Any]) -> list[Any]:
    """Do all at once; what each returned, or the refusal it met."""
    gate = threading.Barrier(len(acts))
    found: list[Any] = [None] * len(acts)

    def run(index: int, act: Callable[[], Any]) -> None:
        gate.wait()
        try:
            found[index] = act()
        except Exception as wrong:
            found[index] = wrong
        finally:
            connection.close()

    threads = [threading.Thread(target=run, args=one) for one in enumerate(acts)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return found


class TwoAtOnce(TransactionTestCase):
    def setUp(self) -> None:
        world.load()
        self.isla, self.tam = (User.objects.get(username=name) for name in ("isla", "tam"))
        self.van = Job.objects.get(vehicle__startswith="Library van")
        self.trial = self.van.trials.get()

    def read(self, by: User, client_id: uuid.UUID) -> Callable[[], Any]:
        return lambda: record_reading(
            by=by, trial_id=self.trial.client_id, client_id=client_id, angle_deg=45.0, typed="0.10 mm", sure=False
        )

    def test_the_same_reading_sent_twice_is_one_reading(self) -> None:
        client_id, before = uuid.uuid4(), Reading.objects.count()
        found = together(*[self.read(self.isla, client_id) for _ in range(6)])
        self.assertTrue(all(isinstance(one, Trial) for one in found), found)
        self.assertEqual(Reading.objects.count(), before + 1)

    def test_two_peoples_readings_are_both_kept(self) -> None:
        before = Reading.objects.count()
        together(self.read(self.isla, uuid.uuid4()), self.read(self.tam, uuid.uuid4()))
        self.assertEqual(Reading.objects.count(), before + 2)

    def begin(self, by: User, ring: str) -> Callable[[], Any]:
        setting = Setting(ring_side=ring, far_side="4.60 mm", ring_side_notches=None, far_side_notches=None)
        return lambda: begin_trial(by=by, job_id=self.van.pk, client_id=uuid.uuid4(), setting=setting, after=1, from_drawer=True, note="")

    def test_only_one_of_two_begins_the_next_trial_and_the_other_is_told(self) -> None:
        found = together(self.begin(self.isla, "4.50 mm"), self.begin(self.tam, "4.40 mm"))
        self.assertEqual(sorted(type(one).__name__ for one in found), ["Conflict", "Trial"])
        (refused,) = [one for one in found if isinstance(one, Conflict)]
        self.assertEqual(refused.code, "newer_trial")
        self.assertEqual(self.van.trials.count(), 2)

    def test_the_last_shim_goes_to_one_job_alone(self) -> None:
        other = Job.objects.get(vehicle__startswith="School minibus")
        ShimRow.objects.filter(family__code="corrie-ls19", thickness_mm="5.0").update(count=1)
        setting = Setting(ring_side="5.00 mm", far_side="4.60 mm", ring_side_notches=None, far_side_notches=None)
        takes = [
            lambda job=job, after=after: begin_trial(
                by=self.isla, job_id=job.pk, client_id=uuid.uuid4(), setting=setting, after=after, from_drawer=True, note=""
            )
            for job, after in ((self.van, 1), (other, other.trials.count()))
        ]
        found = together(*takes)
        self.assertEqual(sorted(type(one).__name__ for one in found), ["Conflict", "Trial"])
        self.assertEqual(ShimRow.objects.get(family__code="corrie-ls19", thickness_mm="5.0").count, 0)

    def test_a_step_passed_twice_at_once_is_one_record(self) -> None:
        job = Job.objects.get(vehicle__startswith="Road-rail")
        client_id = uuid.uuid4()
        act = lambda: pass_step(by=self.isla, job_id=job.pk, client_id=client_id, code="stands_and_chocks", typed="", note="")  # noqa: E731
        together(act, act, act)
        self.assertEqual(StepRecord.objects.filter(job=job, step_code="stands_and_chocks").count(), 1)

    def test_jobs_made_at_once_have_numbers_of_their_own_and_a_retry_none(self) -> None:
        given = Given(
            customer="x", vehicle="y", layout="rear_drive", axle="rear", family="corrie-ls19", complaint="z", use="road", use_note=""
        )
        same, before = uuid.uuid4(), Job.objects.count()
        ids = [same, same, uuid.uuid4(), uuid.uuid4()]
        found = together(*[lambda job_id=job_id: create_job(by=self.isla, job_id=job_id, given=given) for job_id in ids])
        self.assertTrue(all(isinstance(one, Job) for one in found), found)
        self.assertEqual(Job.objects.count(), before + 3)
        self.assertEqual(len({one.number for one in found}), 3)
