"""Two people, or one and a late retry, at the same moment: real threads on a real database."""

from __future__ import annotations

import threading
import uuid
from collections.abc import Callable
from dataclasses import replace
from typing import Any

from django.db import connection, transaction
from django.test import TransactionTestCase

from accounts.models import User
from jobs.models import Job
from jobs.services import CardGiven
from records.writing import Writing, begin
from setup_bench.models import Reading, Trial
from setup_bench.services import Setting, begin_trial, record_reading
from shared.refusals import Conflict
from stores.models import AxleFamily, DrawerPlace, ShimMove, ShimRow
from stores.services import exchange
from test_support.demo import demo_workshop
from work.models import StepRecord, Work
from work.services import WorkGiven, book_job, pass_step


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


def in_transaction(act: Callable[[], Any]) -> Callable[[], Any]:
    def run() -> Any:
        with transaction.atomic():
            return act()

    return run


def once(by: User, write_id: uuid.UUID, command: str, sent: dict[str, Any], act: Callable[..., Any]) -> bool:
    """A write in its envelope, as the API does it; whether it was this one that was stored."""
    writing = replace(Writing.of(by), id=write_id)
    with transaction.atomic():
        first = begin(writing, command=command, target="", content=str(sent))
        if first:
            act(writing, **sent)
    return first


class TwoAtOnce(TransactionTestCase):
    def setUp(self) -> None:
        demo_workshop()
        self.isla, self.tam = (User.objects.get(username=name) for name in ("isla", "tam"))
        self.van = Job.objects.filter(vehicle__name__startswith="Library van").earliest("number")
        self.trial = Trial.objects.get(work=self.van.pk)

    def read(self, by: User, client_id: uuid.UUID) -> Callable[[], Any]:
        sent = {"trial_id": self.trial.client_id, "angle_deg": 45.0, "typed": "0.10 mm", "sure": False}
        return lambda: once(by, client_id, "reading_record", sent, record_reading)

    def test_the_same_reading_sent_twice_is_one_reading(self) -> None:
        client_id, before = uuid.uuid4(), Reading.objects.count()
        found = together(*[self.read(self.isla, client_id) for _ in range(6)])
        self.assertEqual(sorted(found), [False] * 5 + [True])
        self.assertEqual(Reading.objects.count(), before + 1)

    def test_two_peoples_readings_are_both_kept(self) -> None:
        before = Reading.objects.count()
        together(self.read(self.isla, uuid.uuid4()), self.read(self.tam, uuid.uuid4()))
        self.assertEqual(Reading.objects.count(), before + 2)

    def begin(self, by: User, ring: str) -> Callable[[], Any]:
        setting = Setting(ring_side=ring, far_side="4.60 mm", ring_side_notches=None, far_side_notches=None)
        return lambda: begin_trial(Writing.of(by), work_id=self.van.pk, setting=setting, after=1, from_drawer=True, note="")

    def test_only_one_of_two_begins_the_next_trial_and_the_other_is_told(self) -> None:
        found = together(self.begin(self.isla, "4.50 mm"), self.begin(self.tam, "4.40 mm"))
        self.assertEqual(sorted(type(one).__name__ for one in found), ["Bench", "Conflict"])
        (refused,) = [one for one in found if isinstance(one, Conflict)]
        self.assertEqual(refused.code, "newer_trial")
        self.assertEqual(Trial.objects.filter(work=self.van.pk).count(), 2)

    def test_the_last_shim_goes_to_one_job_alone(self) -> None:
        other = Job.objects.filter(vehicle__name__startswith="School minibus").earliest("number")
        ShimRow.objects.filter(family__code="corrie-ls19", thickness_mm="5.0").update(count=1)
        setting = Setting(ring_side="5.00 mm", far_side="4.60 mm", ring_side_notches=None, far_side_notches=None)
        takes = [
            lambda job=job, after=after: begin_trial(
                Writing.of(self.isla), work_id=job.pk, setting=setting, after=after, from_drawer=True, note=""
            )
            for job, after in ((self.van, 1), (other, Trial.objects.filter(work=other.pk).count()))
        ]
        found = together(*takes)
        self.assertEqual(sorted(type(one).__name__ for one in found), ["Bench", "Conflict"])
        self.assertEqual(ShimRow.objects.get(family__code="corrie-ls19", thickness_mm="5.0").count, 0)

    def test_a_step_passed_twice_at_once_is_one_record(self) -> None:
        job = Job.objects.filter(vehicle__name__startswith="Road-rail").earliest("number")
        client_id = uuid.uuid4()
        sent = {"work_id": job.pk, "code": "complaint", "typed": "", "note": ""}
        act = lambda: once(self.isla, client_id, "step_pass", sent, pass_step)  # noqa: E731
        together(act, act, act)
        self.assertEqual(StepRecord.objects.filter(work=job.pk, step_code="complaint").count(), 1)

    def test_jobs_made_at_once_have_numbers_of_their_own_and_a_retry_none(self) -> None:
        card = CardGiven(customer="x", complaint="z", use="road", use_note="")
        given = {"given": card, "vehicle_id": None, "vehicle": "y", "layout": "rear_drive"}
        same, before = uuid.uuid4(), Job.objects.count()
        ids = [same, same, uuid.uuid4(), uuid.uuid4()]

        def book(job_id: uuid.UUID) -> bool:
            first = WorkGiven(id=job_id, place="rear_axle", family="corrie-ls19")
            return once(self.isla, job_id, "job", {"job_id": job_id, "first": first, **given}, book_job)

        found = together(*[lambda job_id=job_id: book(job_id) for job_id in ids])
        self.assertEqual(sorted(found), [False, True, True, True])
        self.assertEqual(Job.objects.count(), before + 3)
        self.assertEqual(Work.objects.filter(pk__in=ids).count(), 3)

    def test_two_jobs_that_give_back_one_thickness_at_once_both_count(self) -> None:
        family = AxleFamily.objects.get(code="corrie-ls19")
        give = lambda: exchange(  # noqa: E731
            Writing.of(self.isla), family, DrawerPlace.SIDE, give_back=[(7.77, 1)], take=[], must_have=False
        )
        self.assertEqual(together(*[in_transaction(give)] * 4), [None] * 4)
        row = ShimRow.objects.get(family=family, thickness_mm="7.77")
        self.assertEqual((row.count, ShimMove.objects.filter(row=row).count()), (4, 4))
