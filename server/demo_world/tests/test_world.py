"""The made-up workshop tells the stories it is meant to tell."""

from __future__ import annotations

from jobs.models import Job
from setup_bench.advice_out import advice_out
from setup_bench.bench import bench_of
from setup_bench.models import Reading
from setup_bench.present import bench_out
from test_support.api_case import ApiTestCase
from test_support.demo import demo_workshop
from work.models import Work
from work.present import find_job, find_work, job_out, work_out
from work.run_sheet import RunSheet


class Stories(ApiTestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        demo_workshop()
        super().setUpTestData()

    def bench(self, vehicle: str) -> dict[str, object]:
        return bench_out(bench_of(Job.objects.filter(vehicle__name__startswith=vehicle).earliest("number").pk))

    def test_what_each_bench_says_next(self) -> None:
        stories = {
            "Library van": "measure",
            "Estate car": "not_by_shims",
            "Ferry-ramp tug": "finished",
            "Bread van": "read_again",
            "Timber crew": "finished",
            "Road-rail loader": "begin",
        }
        for vehicle, kind in stories.items():
            with self.subTest(vehicle):
                job = Job.objects.filter(vehicle__name__startswith=vehicle).earliest("number")
                self.assertEqual(advice_out(bench_of(job.pk))["kind"], kind)

    def test_the_tugs_adjusters_brought_it_in_at_the_second_trial(self) -> None:
        trials = self.bench("Ferry-ramp tug")["trials"]
        self.assertEqual([trial["assessment"].verdict for trial in trials], ["out", "in", "in"])  # type: ignore[attr-defined]
        self.assertLess(trials[1]["ring_move_mm"], 0.0)  # type: ignore[index]

    def test_a_misreading_stays_visible(self) -> None:
        (struck,) = Reading.objects.filter(strike_out__isnull=False)
        self.assertEqual(struck.strike_out.reason, "stylus slipped off the tooth")

    def test_no_record_lies_in_the_future_or_out_of_order(self) -> None:
        for work in Work.objects.with_job():
            times = [record.at for record in work.step_records.order_by("id")]
            with self.subTest(str(work.job)):
                self.assertEqual(times, sorted(times))
                self.assertLessEqual(work.job.created_at, work.job.updated_at)

    def test_no_hold_was_jumped(self) -> None:
        for work in Work.objects.with_job():
            sheet = RunSheet(work)
            with self.subTest(str(work.job)):
                for step in sheet.steps:
                    if step.code in sheet.passed and step.code != "gear_set":
                        self.assertIsNone(sheet.hold_before(step.code), step.code)

    def test_front_and_rear_of_the_doctors_car_are_marked_as_a_mismatch(self) -> None:
        found = Job.objects.filter(vehicle__name__startswith="Four-wheel-drive").earliest("number").pk
        job = job_out(find_job(found))
        rear = next(one for one in job["stations"] if one["place"] == "rear_axle")
        self.assertEqual(rear["word"], "Fault")
        self.assertFalse(work_out(find_work(found))["gear_set"]["guess_agrees"])
