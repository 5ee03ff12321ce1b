"""Sign-off, the sheet and its PDF."""

from __future__ import annotations

import subprocess
import uuid
from pathlib import Path
from tempfile import TemporaryDirectory

from build_sheet.models import SignOff
from jobs.models import Job
from setup_bench.models import PatternReading, Trial
from test_support.api_case import ApiTestCase
from test_support.finished import finished_job


class SignOffTests(ApiTestCase):
    def ready(self, *, measured_by: str = "isla") -> str:
        return finished_job(self.who["isla"], self.who[measured_by])

    def test_a_foreman_who_did_not_measure_signs(self) -> None:
        job = self.ready()
        for by, words in (("isla", "a foreman signs off"), ("callum", "cannot sign"), ("visitor", "cannot sign")):
            with self.subTest(by):
                reply = self.post(f"/work/{job}/sign-off", {}, by=by)
                self.assertIn(reply.status_code, (403, 422))
                self.assertIn(words, self.call("get", f"/work/{job}/sheet", by=by).json()["cannot_sign"])
        reply = self.post(f"/work/{job}/sign-off", {}, by="greta")
        self.assertEqual(reply.json()["signed"], True)
        self.assertEqual(Job.objects.get(pk=job).state, "done")

    def test_not_the_one_who_measured(self) -> None:
        job = self.ready(measured_by="greta")
        self.assert_refused(self.post(f"/work/{job}/sign-off", {}, by="greta"), 422, "not_ready", words="measured the final trial yourself")

    def test_where_the_shop_leaves_it_open_a_technician_signs(self) -> None:
        self.call("patch", "/shop", {"foreman_signs": False}, by="greta")
        self.assertEqual(self.post(f"/work/{self.ready()}/sign-off", {}).status_code, 201)

    def test_not_before_every_step_is_passed(self) -> None:
        job = self.make_job()
        self.measured(job)
        self.assert_refused(self.post(f"/work/{job}/sign-off", {}, by="greta"), 422, "not_ready", words="Complaint noted")

    def test_nothing_is_written_afterwards_until_it_is_taken_back(self) -> None:
        job = self.ready()
        again = {"client_id": str(uuid.uuid4())}
        for _ in range(2):
            self.assertEqual(self.post(f"/work/{job}/sign-off", again, by="greta").status_code, 201)
        self.assertEqual(SignOff.objects.count(), 1)
        trial = str(Trial.objects.filter(work_id=job).latest("number").client_id)
        self.assert_refused(self.read(trial, "20"), 409, "signed_off")
        version = self.call("get", f"/jobs/{job}").json()["version"]
        self.assert_refused(self.call("patch", f"/jobs/{job}", {"version": version, "customer": "x"}), 409, "signed_off")
        self.assertEqual(self.post(f"/work/{job}/withdraw", {"reason": "x"}).status_code, 403)
        self.assert_refused(self.post(f"/work/{job}/withdraw", {"reason": ""}, by="greta"), 422, "bad_input", field="reason")
        reply = self.post(f"/work/{job}/withdraw", {"reason": "Wrong axle"}, by="greta")
        self.assertEqual((reply.json()["signed"], reply.json()["sign_offs"][0]["withdrawn_reason"]), (False, "Wrong axle"))
        self.assertEqual(self.read(trial, "17").status_code, 201)


class TheSheet(ApiTestCase):
    def job(self) -> str:
        job = finished_job(self.who["isla"], customer="Skerrow <Post> & Sons")
        for turn, torque in ((0, "0.4 Nm"), (20, "2.0 Nm")):
            self.post(f"/work/{job}/sleeve-steps", {"sleeve": 1, "nut_turn_deg": turn, "typed": torque})
        trial = str(Trial.objects.filter(work_id=job).latest("number").client_id)
        (before,) = PatternReading.objects.filter(trial__client_id=trial, flank="drive")
        self.paint(trial, u=0.96 - before.u, v=1.0 - before.v)  # so that the mean of both is 48 and 50 %
        self.read(trial, "6.5 thou", 22.0)
        reading = self.call("get", f"/work/{job}/bench").json()["trials"][1]["readings"][0]["id"]
        self.post(f"/readings/{reading}/strike-out", {"reason": "dial bumped"})
        self.assertEqual(self.post(f"/work/{job}/sign-off", {}, by="greta").status_code, 201)
        return job

    def test_the_page_shows_what_was_entered_who_and_when_and_escapes_what_was_typed(self) -> None:
        page = self.call("get", f"/work/{self.job()}/sheet.html").content.decode()
        for words in (
            "6.5 thou",
            "struck out: dial bumped",
            "Isla Moray",
            "Greta Fell",
            "&plusmn; 0.01",
            "Sample figure",
            "1.6 l",
            "&lt;Post&gt; &amp; Sons",
            "depth shim 0.80 mm (1 × 0.80)",
            "<td>Drive side</td><td>48 %</td><td>50 %</td>",
            ", mean of 2 readings",
            "Pinion alone: 2.10 Nm (entered 2.1",
            "Crush sleeve: 2 steps to 20&deg; from contact, 2.00 Nm",
            "Pinion depth: not measured in this trial",
        ):
            with self.subTest(words):
                self.assertIn(words, page)
        self.assertNotIn("<Post>", page)

    def test_a_shim_keeps_its_thousandths(self) -> None:
        job = self.make_job()
        self.begin(job, "4.60 mm + 10 thou + 10 thou", "none")
        page = self.call("get", f"/work/{job}/sheet.html").content.decode()
        self.assertIn("ring gear side 5.108 mm (1 × 4.60, 2 × 0.254); far side 0.00 mm (no shims).", page)

    def test_the_pdf_says_the_same(self) -> None:
        reply = self.call("get", f"/work/{self.job()}/sheet.pdf")
        self.assertEqual(reply.headers["Content-Type"], "application/pdf")
        with TemporaryDirectory() as folder:
            path = Path(folder) / "sheet.pdf"
            path.write_bytes(reply.content)
            text = subprocess.run(["pdftotext", "-layout", path, "-"], capture_output=True, text=True, check=True).stdout
            fonts = subprocess.run(["pdffonts", path], capture_output=True, text=True, check=True).stdout
        for words in (
            "Backlash round the ring",
            "6.5 thou",
            "dial bumped",
            "Greta Fell",
            "Skerrow <Post> & Sons",
            "Rotating torque and pinion depth",
        ):
            with self.subTest(words):
                self.assertIn(words, text)
        own = [line.split("+")[1].split()[0] for line in fonts.splitlines()[2:]]
        self.assertTrue(own)
        self.assertTrue(all(name.startswith("Sheet-") for name in own), own)  # nothing borrowed from the machine

    def test_only_signed_in(self) -> None:
        job = self.job()
        for part in ("work/{}/sheet", "work/{}/sheet.html", "work/{}/sheet.pdf", "jobs/{}/job.json", "work/{}/readings.csv"):
            with self.subTest(part):
                self.assertEqual(self.call("get", f"/{part.format(job)}", by=None).status_code, 401)
