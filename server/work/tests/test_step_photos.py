"""Pictures taken at a step of the run sheet: kept once, never changed, without where they were taken, in the job file too."""

from __future__ import annotations

import io
import json
import re
import uuid
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from build_sheet.job_file import VERSION
from setup_bench.models import PatternPhoto
from test_support.api_case import API, ApiTestCase, picture
from work.models import StepPhoto, Work


def taken_with_a_phone() -> bytes:
    """A picture on its side that says where it was taken."""
    exif = Image.Exif()
    exif[0x0112] = 6
    exif.get_ifd(0x8825)[1] = "N"
    out = io.BytesIO()
    Image.new("RGB", (8, 6), (20, 80, 120)).save(out, "JPEG", exif=exif)
    return out.getvalue()


class StepPhotos(ApiTestCase):
    def setUp(self) -> None:
        self.job = self.make_job()

    def send(self, code: str = "magnet", content: bytes | None = None, *, by: str = "isla", **more: Any) -> Any:
        file = SimpleUploadedFile("photo.jpg", picture() if content is None else content, "image/jpeg")
        fields = {"client_id": str(uuid.uuid4()), **more, "file": file}
        return self.client_of(by).post(f"{API}/work/{self.job}/steps/{code}/photos", fields)

    def shown(self, code: str) -> list[dict[str, Any]]:
        steps = self.call("get", f"/work/{self.job}").json()["steps"]
        found: list[dict[str, Any]] = next(one["photos"] for one in steps if one["code"] == code)
        return found

    def step(self) -> str:
        return str(self.call("get", f"/work/{self.job}").json()["steps"][0]["code"])

    def test_it_is_kept_once_and_shown_at_its_step(self) -> None:
        code, again = self.step(), str(uuid.uuid4())
        for _ in range(2):
            self.assertEqual(self.send(code, client_id=again).status_code, 201)
        self.assertEqual(StepPhoto.objects.count(), 1)
        shown = self.shown(code)
        self.assertEqual([(one["id"], one["by_name"]) for one in shown], [(again, "Isla Moray")])
        answer = self.client_of("tam").get(f"{API}/step-photos/{again}")
        self.assertEqual((answer.status_code, answer["Content-Type"], answer["X-Content-Type-Options"]), (200, "image/jpeg", "nosniff"))
        self.assertEqual(self.client_of(None).get(f"{API}/step-photos/{again}").status_code, 401)
        self.assertEqual(self.client_of("tam").get(f"{API}/step-photos/{uuid.uuid4()}").status_code, 404)
        self.assert_refused(self.send(code, picture("PNG"), client_id=again), 409, "id_reused")

    def test_where_it_was_taken_is_left_out_and_it_stands_upright(self) -> None:
        self.send(self.step(), taken_with_a_phone())
        with Image.open(io.BytesIO(bytes(StepPhoto.objects.get().content))) as kept:
            self.assertEqual((kept.size, dict(kept.getexif())), ((6, 8), {}))

    def test_what_cannot_be_kept(self) -> None:
        code = self.step()
        self.assert_refused(self.send(code, b"no picture"), 422, "bad_input", field="file", words="not a picture")
        self.assert_refused(self.send(code, picture()[:40]), 422, "bad_input", field="file")
        self.assert_refused(self.send("no_such_step"), 422, "not_found", field="step")
        self.assert_refused(self.send(code, by="visitor"), 403, "not_allowed")
        self.assertFalse(StepPhoto.objects.exists())

    def test_it_is_in_the_job_file(self) -> None:
        self.send(self.step())
        trial = self.trial_id(self.begin(self.job))
        painted = {"client_id": str(uuid.uuid4()), "flank": "drive", "file": SimpleUploadedFile("tooth.jpg", picture(), "image/jpeg")}
        self.assertEqual(self.client_of("isla").post(f"{API}/trials/{trial}/photos", painted).status_code, 201)
        plain = self.client_of("greta").get(f"{API}/jobs/{self.job}/job.json").json()
        self.assertEqual((plain["version"], len(plain["works"][0]["step_photos"])), (VERSION, 1))
        kept = bytes(StepPhoto.objects.get().content)
        plain["job"]["number"] += 500
        text = re.sub(
            r"[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}", lambda one: str(uuid.uuid5(uuid.NAMESPACE_OID, one[0])), json.dumps(plain)
        )
        file = SimpleUploadedFile("job.json", text.encode(), "application/json")
        reply = self.client_of("greta").post(f"{API}/import", {"client_id": str(uuid.uuid4()), "vehicle": "new", "file": file})
        self.assertEqual(reply.status_code, 201, reply.content)
        other = Work.objects.exclude(pk=self.job).get()
        self.assertEqual(bytes(other.step_photos.get().content), kept)
        self.assertEqual(bytes(PatternPhoto.objects.get(trial__work=other).content), picture())
