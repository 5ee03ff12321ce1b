"""A bench read in one go says what its rows say when they are asked for one by one."""

from __future__ import annotations

from unittest import mock
from uuid import UUID, uuid4

from django.db import connection, models
from django.http import Http404
from django.test.utils import CaptureQueriesContext

from records.writing import body_of
from setup_bench.bench import Bench, bench_of
from setup_bench.models import PatternPhoto, Reading, Trial
from setup_bench.present import bench_out
from setup_bench.schemas import BenchOut
from shared.gathering import Gathering, Part
from stores.models import ShimRow
from test_support.api_case import ApiTestCase
from work.models import Work


class InOneGo(ApiTestCase):
    job: str

    @classmethod
    def setUpTestData(cls) -> None:
        super().setUpTestData()
        cls.job = cls().two_trials()

    def two_trials(self) -> str:
        """A used set with two trials, a reading of the first struck out."""
        job = self.make_job()
        self.post(f"/work/{job}/basis", {"set_state": "used", "drive_flank": "convex", "found_backlash": "0.2 mm", "places": 5})
        self.post(f"/work/{job}/instrument-checks", {"zero": "0 mm", "block": "1 mm", "block_read": "1.002 mm", "back": "0 mm"})
        for after in (0, 1):
            trial = self.trial_id(self.begin(job, ring=f"4.{60 + after} mm", after=after))
            self.confirm(trial)
            for place in range(3):
                self.read(trial, "0.15 mm", 45.0 * place)
            self.post(f"/trials/{trial}/torques", {"what": "pinion", "typed": "2 Nm", "bearings": "new", "seal": "absent"})
            for flank in ("drive", "coast"):
                seen = {"flank": flank, "u": 0.5, "v": 0.5, "length": 0.5, "height": 0.4, "tilt_deg": 0.0}
                self.post(f"/trials/{trial}/patterns", seen)
        struck = Reading.objects.earliest("id").client_id
        self.post(f"/readings/{struck}/strike-out", {"reason": "stylus slipped"})
        return job

    def test_it_shows_what_the_rows_say_one_by_one(self) -> None:
        work = UUID(self.job)
        one_by_one = bench_out(Bench(Work.objects.with_job().get(pk=work)))
        with CaptureQueriesContext(connection) as asked:
            in_one_go = bench_out(bench_of(work))
        self.assertEqual(in_one_go, one_by_one)
        self.assertEqual(len(asked), 1)
        self.assertEqual([len(one["readings"]) for one in in_one_go["trials"]], [3, 3])
        self.assertEqual(in_one_go["trials"][0]["readings"][0]["struck"]["reason"], "stylus slipped")

    def test_rows_of_another_work_stay_out(self) -> None:
        other = self.make_job()
        self.read(self.trial_id(self.begin(other)), "0.18 mm")
        self.assertEqual(len(bench_of(UUID(other)).trials), 1)
        self.assertEqual(len(bench_of(UUID(self.job)).trials), 2)

    def test_types_come_back_as_the_database_has_them(self) -> None:
        found = bench_of(UUID(self.job))
        read, kept = found.trials[0].readings.all()[0], Reading.objects.earliest("id")
        for name in ("client_id", "at", "angle_deg", "value_mm", "typed"):
            self.assertEqual(getattr(read, name), getattr(kept, name))
            self.assertIs(type(getattr(read, name)), type(getattr(kept, name)))
        self.assertEqual(found.work.job.promised_on, kept.trial.work.job.promised_on)

    def test_the_answer_that_is_kept_is_the_one_that_would_be_worked_out_and_goes_with_any_change(self) -> None:
        work, path = UUID(self.job), f"/work/{self.job}/bench"
        first = self.call("get", path)
        with mock.patch("setup_bench.kept.bench_out") as worked_out:
            self.assertEqual(self.call("get", path, by="greta").content, first.content)
        worked_out.assert_not_called()
        self.assertNotEqual(self.call("get", path, by="tam").content, first.content)  # who reads in thou
        trial = bench_of(work).trials[-1].client_id
        for change in (
            lambda: self.read(str(trial), "0.16 mm", 180.0),
            lambda: self.post(f"/readings/{Reading.objects.latest('id').client_id}/strike-out", {"reason": "slipped"}),
            lambda: self.call("patch", f"/jobs/{self.job}", {"version": 1, "customer": "Skerrow Mail"}, by="callum"),
            lambda: ShimRow.objects.filter(place="depth").delete(),
            lambda: Work.objects.filter(pk=work).update(sheet_revision=None),
        ):
            change()
            if bench_there := Work.objects.get(pk=work).sheet_revision_id is not None:
                self.assertEqual(self.call("get", path).content.decode(), body_of(BenchOut, bench_out(bench_of(work))))
            self.assertEqual(self.call("get", path).status_code, 200 if bench_there else 404)

    def test_no_such_work(self) -> None:
        with self.assertRaises(Http404):
            bench_of(uuid4())

    def test_rows_read_along_are_not_silently_asked_for_again(self) -> None:
        trial = bench_of(UUID(self.job)).trials[0]
        with self.assertRaisesMessage(TypeError, "read along"):
            trial.readings.filter(angle_deg=0.0)

    def test_what_cannot_be_read_in_one_go_is_said_when_it_is_built(self) -> None:
        def one(rows: models.QuerySet[models.Model]) -> Gathering:
            return Gathering(rows=Part(lambda key: rows))

        with self.assertRaisesMessage(TypeError, "Defer the bytes"):
            one(PatternPhoto.objects.all()).read(uuid4())
        with self.assertRaisesMessage(TypeError, "more than the key"):
            one(Trial.objects.filter(number=3)).read(uuid4())
