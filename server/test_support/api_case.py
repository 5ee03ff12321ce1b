"""What the tests of several areas start from: the demo people and families, and calls to the API."""

from __future__ import annotations

import io
import json
import uuid
from typing import Any

from django.test import Client, TestCase
from django.test.client import ClientHandler
from PIL import Image

from accounts import demo as people
from accounts.models import User
from amber_core.procedures.steps import Step
from demo_world import families
from demo_world.world import figure_of
from work.models import Work
from work.run_sheet import RunSheet

API = "/api/v1"


def picture(kind: str = "JPEG", size: tuple[int, int] = (8, 6)) -> bytes:
    """A small real picture."""
    out = io.BytesIO()
    Image.new("RGB", size, (180, 120, 40)).save(out, kind)
    return out.getvalue()


class Browser(Client):
    """A browser; all of them ask one handler, as they would one server: to make it, every static file is looked at."""

    _server = ClientHandler(enforce_csrf_checks=False)

    def __init__(self) -> None:
        super().__init__()
        self.handler = self._server


class ApiTestCase(TestCase):
    """A shop with people and families, and no job."""

    who: dict[str, User]

    def __init__(self, *test: str) -> None:
        super().__init__(*test)
        self._signed_in: dict[str | None, Client] = {}

    @classmethod
    def setUpTestData(cls) -> None:
        cls.who = people.load()
        families.load()

    def client_of(self, username: str | None) -> Client:
        """A browser with this login, or with none."""
        client = Browser()
        if username is not None:
            client.force_login(self.who[username], backend="django.contrib.auth.backends.ModelBackend")
        return client

    def call(self, method: str, path: str, body: Any = None, *, by: str | None = "isla") -> Any:
        """Call the API in the browser this person has been signed in with since; the answer has `.status_code` and `.json()`."""
        client = self._signed_in.get(by) or self._signed_in.setdefault(by, self.client_of(by))
        if method == "get":
            return client.get(API + path)
        return client.generic(method.upper(), API + path, json.dumps(body), content_type="application/json")

    def post(self, path: str, body: Any, *, by: str | None = "isla") -> Any:
        """POST with a fresh client-made id, unless the body brings one."""
        return self.call("post", path, {"client_id": str(uuid.uuid4()), **body}, by=by)

    def card(self, **more: Any) -> dict[str, Any]:
        """What a new job takes."""
        usual = {
            "id": str(uuid.uuid4()),
            "customer": "Skerrow Post",
            "vehicle": "Post van",
            "layout": "rear_drive",
            "axle": "rear",
            "family": "corrie-ls19",
            "complaint": "Howl on overrun",
            "use": "road",
        }
        return {**usual, **more}

    def make_job(self, *, teeth: tuple[int, int] | None = (10, 41), **more: Any) -> str:
        """A job, by default with its gear set known; its piece of work has the same id."""
        card = self.card(**more)
        self.assertEqual(self.call("post", "/jobs", card).status_code, 201)
        if teeth:
            body = {"pinion_teeth": teeth[0], "ring_teeth": teeth[1]}
            self.assertEqual(self.post(f"/work/{card['id']}/gear-set", body).status_code, 201)
        return str(card["id"])

    def begin(self, job: str, ring: str = "4.60 mm + 0.05 mm", far: str = "4.50 mm", *, after: int = 0, **more: Any) -> Any:
        """A trial with these stacks."""
        return self.post(
            f"/work/{job}/trials", {"after": after, "ring_side": ring, "far_side": far, **({} if after else {"depth": "0.80 mm"}), **more}
        )

    def confirm(self, trial: str, *, by: str = "isla") -> Any:
        """The housing was looked at."""
        return self.post(f"/trials/{trial}/conditions", {}, by=by)

    def paint(self, trial: str, flank: str = "drive", *, u: float = 0.48, v: float = 0.5, by: str = "isla", **more: Any) -> Any:
        """A patch as it was read."""
        body = {"flank": flank, "u": u, "v": v, "length": 0.5, "height": 0.45, "tilt_deg": 10.0, **more}
        return self.post(f"/trials/{trial}/patterns", body, by=by)

    def trial_id(self, bench: Any) -> str:
        """The id of the last trial in an answer."""
        return str(bench.json()["trials"][-1]["id"])

    def read(self, trial: str, typed: str, angle_deg: float = 0.0, *, by: str = "isla", **more: Any) -> Any:
        """A reading."""
        return self.post(f"/trials/{trial}/readings", {"angle_deg": angle_deg, "typed": typed, **more}, by=by)

    def measured(self, job: str, typed: str = "0.17 mm", *, by: str = "isla") -> str:
        """A first trial, confirmed, with 8 equal readings and both patterns."""
        trial = self.trial_id(self.begin(job))
        self.assertEqual(self.confirm(trial, by=by).status_code, 201)
        self.read_all(trial, typed, by=by)
        return trial

    def read_all(self, trial: str, typed: str = "0.17 mm", *, by: str = "isla") -> None:
        """8 equal readings and both patterns."""
        for place in range(8):
            self.assertEqual(self.read(trial, typed, 45.0 * place, by=by).status_code, 201)
        for flank in ("drive", "coast"):
            self.assertEqual(self.paint(trial, flank, by=by).status_code, 201)

    def assembled(self, job: str, *, by: str = "isla") -> str:
        """The final assembly, everything read once more."""
        after = len(self.call("get", f"/work/{job}/bench").json()["trials"])
        trial = self.trial_id(self.begin(job, after=after, is_final=True, preload_part="sleeve"))
        self.confirm(trial, by=by)
        self.read_all(trial, by=by)
        for what, typed in (("pinion", "2.1 Nm"), ("total", "2.7 Nm")):
            body = {"what": what, "typed": typed, "bearings": "new", "seal": "absent"}
            self.assertEqual(self.post(f"/trials/{trial}/torques", body, by=by).status_code, 201)
        return trial

    def pass_all(self, job: str, *, until: str | None = None, by: str = "isla", oil: str = "1.6") -> None:
        """Pass the steps of the run sheet with what each asks for."""
        while True:
            sheet = RunSheet(Work.objects.with_job().get(pk=job))
            step = sheet.next if until is None or until not in sheet.passed else None
            if step is not None and step.measure == "gear_set":
                step = next((one for one in sheet.steps if one.code not in sheet.passed | {"gear_set"}), None)
            if step is None or step.code == until:
                return
            if step.code == "final_reading" and Work.objects.get(pk=job).bench_finding.missing:
                self.assembled(job, by=by)
            self.pass_one(job, step, by=by, oil=oil)

    def pass_one(self, job: str, step: Step, *, by: str = "isla", **figures: str) -> None:
        """Pass one step by what its act takes."""
        path = f"/work/{job}/steps/{step.code}"
        if step.act == "choose":
            advised = RunSheet(Work.objects.with_job().get(pk=job)).advised(step)
            way = next((one for one in step.ways if one.code == advised), step.ways[-1])
            reply = self.post(f"/work/{job}/ways", {"question": step.code, "way": way.code}, by=by)
        elif step.act == "clock":
            self.assertEqual(self.post(f"{path}/begin", {}, by=by).status_code, 201)
            reply = self.post(f"{path}/skip", {"reason": "Warm shop, dry to the touch"}, by=by)
        else:
            if step.act == "wait":
                self.assertEqual(self.post(f"{path}/begin", {"note": "All of it in tray 4, may be rolled"}, by=by).status_code, 201)
            values = {ask.name: figures.get(ask.name, figure_of(ask)[0]) for ask in step.asks}
            count = str(RunSheet(Work.objects.with_job().get(pk=job)).bolts(step) or 8) if step.act == "bolts" else ""
            reply = self.post(f"{path}/pass", {"typed": count, "values": values}, by=by)
        self.assertEqual(reply.status_code, 201, reply.content)

    def assert_refused(self, reply: Any, status: int, code: str, *, field: str | None = None, words: str = "") -> None:
        """A no with one sentence."""
        self.assertEqual(reply.status_code, status, reply.content)
        error = reply.json()["error"]
        self.assertEqual(error["code"], code, error)
        self.assertRegex(error["message"], r"^\S.*[.?]$")
        self.assertIn(words, error["message"])
        if field is not None:
            self.assertEqual(error["field"], field)
