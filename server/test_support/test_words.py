"""Every sentence that the API, its pages and its files tell comes out of the one catalogue, in the units and the language of who asks."""

from __future__ import annotations

import json
import re
import uuid
from collections.abc import Iterator
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any
from unittest.mock import patch

from accounts.models import User
from amber_core.words import catalogue
from amber_core.words.pseudo import write_pseudo
from diff_bench.tests.typed import TYPED
from driveline_desk.tests.test_desk import inputs as driveline_inputs
from noise_finder.tests.test_finder import VAN
from ratio_desk.tests.test_desk import inputs as ratio_inputs
from test_support.api_case import API, ApiTestCase

OWN_WORDS = {
    *("customer", "complaint", "vehicle", "owner", "name", "family_name", "family", "shop_name", "title", "note", "waits_note"),
    *(
        "reason",
        "by_name",
        "source",
        "source_note",
        "registration",
        "display_name",
        "tyre",
        "material_note",
        "statement",
        "family_build",
        "build",
        "wheel_end",
        "locked_by",
        "thread",
        "oil",
        "modifier",
    ),
}
"""Fields that hold what somebody typed, or a name."""
SENTENCE = re.compile(r"[a-z]{3,} [a-z]{2,}")


def untold(answer: Any, path: str = "", key: str = "") -> Iterator[str]:
    """Every text that reads like a sentence and is out of no catalogue, with its path."""
    if isinstance(answer, dict):
        for name, one in answer.items():
            yield from untold(one, f"{path}.{name}", name)
    elif isinstance(answer, list):
        for one in answer:
            yield from untold(one, f"{path}[]", key)
    elif isinstance(answer, str) and key not in OWN_WORDS and SENTENCE.search(answer) and "⟦" not in answer:
        yield f"{path}: {answer}"


class MadeUpLanguage(ApiTestCase):
    """With a catalogue in which every sentence is bracketed, whatever is not bracketed came from elsewhere."""

    def setUp(self) -> None:
        folder = TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        write_pseudo(Path(folder.name) / "xx.po")
        for patched in (
            patch.object(catalogue, "FOLDER", Path(folder.name)),
            patch("config.reading.languages", lambda: ("en", "xx")),
        ):
            patched.start()
            self.addCleanup(patched.stop)
        catalogue._sentences.cache_clear()

    def call(self, method: str, path: str, body: Any = None, *, by: str | None = "isla") -> Any:
        client, headers = self.client_of(by), {"Accept-Language": "xx,en;q=0.5"}
        if method == "get":
            return client.get(API + path, headers=headers)
        return client.generic(method.upper(), API + path, json.dumps(body), content_type="application/json", headers=headers)

    def told(self, reply: Any, status: int = 200) -> Any:
        self.assertEqual(reply.status_code, status, reply.content[:400])
        self.assertEqual(list(untold(reply.json())), [])
        return reply.json()

    def test_answers(self) -> None:
        job = self.make_job()
        told = self.told
        told(self.call("get", f"/work/{job}/advice"))
        trial = self.measured(job, "0.26 mm")
        advice = told(self.call("get", f"/work/{job}/advice"))
        self.assertTrue(advice["text"].startswith("⟦"))
        for path in ("/floor", f"/jobs/{job}", f"/work/{job}", f"/work/{job}/bench", f"/work/{job}/sheet"):
            told(self.call("get", path))
        told(self.read(trial, "2.1"), 422)
        vehicle = self.call("get", f"/jobs/{job}").json()["vehicle_id"]
        told(self.call("get", f"/vehicles/{vehicle}"))
        told(self.call("get", "/families"))

    def test_desks(self) -> None:
        job = self.make_job(layout="four_wheel_drive")
        told = self.told
        for desk in ("ratio-desk", "driveline-desk", "noise-finder"):
            told(self.call("get", f"/work/{job}/{desk}"))
        told(self.call("post", "/ratio-work", ratio_inputs()))
        told(self.call("post", "/driveline-work", driveline_inputs()))
        told(self.call("post", "/driveline-remedies", {"inputs": driveline_inputs(), "free": {"wedge_deg": [-6, 6]}}))
        felt = {"drivetrain": VAN, "tests": [{"speed_kmh": 90, "f_hz": 12.0}], "quality": "buzz", "loads": ["drive"]}
        told(self.call("post", "/noise-felt", {"felt": felt}))

    def test_every_tool_of_the_bench(self) -> None:
        self.told(self.call("get", "/diff-bench"))
        for tool, values in TYPED.items():
            with self.subTest(tool):
                self.told(self.call("post", "/diff-work", {"tool": tool, "values": values, "gauge": "caliper"}))
        self.told(self.call("post", "/diff-work", {"tool": "rollers", "values": {"roller_mm": "two"}}))

    def test_what_was_kept_is_told_to_who_reads_it(self) -> None:
        job = self.make_job()
        kept = self.post(f"/work/{job}/ratio-results", {"title": "kept", "inputs": ratio_inputs()}).json()["id"]
        self.told(self.call("get", f"/ratio-results/{kept}"))
        plain = self.client_of("isla").get(f"{API}/ratio-results/{kept}").json()["answer"]
        text = plain["chosen"]["choices"][0]["terms"][0]["text"]
        self.assertNotIn("⟦", text)
        self.assertIn("km/h", text)
        User.objects.filter(username="isla").update(length_unit="thou")
        again = self.client_of("isla").get(f"{API}/ratio-results/{kept}").json()["answer"]
        self.assertIn("mph", again["chosen"]["choices"][0]["terms"][0]["text"])

    def test_refusals(self) -> None:
        job = self.make_job()
        refused: list[tuple[str, str, Any, str | None, int]] = [
            ("post", "/jobs", {}, "isla", 422),
            ("post", "/jobs", {**self.card(), "layout": "hovercraft"}, "isla", 422),
            ("get", f"/jobs/{uuid.uuid4()}", None, "isla", 404),
            ("get", "/floor", None, None, 401),
            ("post", f"/work/{job}/steps/fill_plug/pass", {"client_id": str(uuid.uuid4())}, "isla", 422),
            ("post", f"/work/{job}/sign-off", {"client_id": str(uuid.uuid4())}, "greta", 422),
            ("post", f"/work/{job}/steps/fill_plug/pass", {"client_id": str(uuid.uuid4())}, "visitor", 403),
            ("post", "/ratio-work", {**ratio_inputs(), "grades_pct": [1, 2, 3, 4, 5]}, "isla", 422),
            ("post", "/compute/backlash.assess", {"readings": []}, "isla", 422),
            ("post", "/compute/none.such", {}, "isla", 404),
        ]
        for method, path, body, by, status in refused:
            with self.subTest(f"{method} {path}", status=status):
                answer = self.told(self.call(method, path, body, by=by), status)
                self.assertIn("⟦", answer["error"]["message"])

    def test_page_and_files(self) -> None:
        job = self.make_job()
        self.measured(job, "0.26 mm")
        page = self.client_of("isla").get(f"{API}/work/{job}/sheet.html", HTTP_ACCEPT_LANGUAGE="xx").content.decode()
        self.assertIn("⟦Véhïclé ôn àxlé stànds", page)


class OneUnit(ApiTestCase):
    def test_the_advice_is_told_in_the_readers_unit(self) -> None:
        job = self.make_job()
        self.measured(job, "0.26 mm")
        mm = self.call("get", f"/work/{job}/advice").json()["text"]
        User.objects.filter(username="isla").update(length_unit="thou")
        thou = self.call("get", f"/work/{job}/advice").json()["text"]
        self.assertRegex(mm, r"\d mm")
        self.assertRegex(thou, r"\d thou")
        self.assertNotRegex(thou, r"\d mm\b")
