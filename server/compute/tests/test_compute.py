"""The registry over HTTP: the same answers, the same errors, signed in, limited in rate."""

from __future__ import annotations

import json
from pathlib import Path
from unittest import mock

from django.conf import settings

from amber_core import registry
from compute import api as compute_api
from test_support.api_case import API, ApiTestCase


class Compute(ApiTestCase):
    def test_the_answer_is_the_cores(self) -> None:
        question = {"pinion_teeth": 10, "ring_teeth": 41}
        self.assertEqual(self.call("post", "/compute/gearset.identify", question).json(), registry.run("gearset.identify", question))

    def test_bad_input_is_422_with_the_path(self) -> None:
        reply = self.call("post", "/compute/backlash.assess", {"readings": [{"angle_deg": 0, "value_mm": "0.2"}]})
        self.assert_refused(reply, 422, "bad_input", field="readings[0].value_mm")
        self.assertEqual(set(reply.json()), {"error"})

    def test_an_unknown_field_is_refused_with_the_nearest_known_name(self) -> None:
        reply = self.call("post", "/compute/gearset.identify", {"pinion_teeth": 10, "ring_teth": 41})
        self.assert_refused(reply, 422, "unknown_field", field="ring_teth", words="ring_teeth")
        self.assertEqual(reply.json()["error"]["hint"], "ring_teeth")

    def test_what_is_no_json(self) -> None:
        for body in ("{", "", '{"min_mm": NaN}', "[" * 50_000):
            with self.subTest(body[:10]):
                reply = self.client_of("isla").post(f"{API}/compute/backlash.assess", body, content_type="application/json")
                self.assert_refused(reply, 422, "bad_input")

    def test_ten_megabytes_are_not_read(self) -> None:
        reply = self.client_of("isla").post(f"{API}/compute/backlash.assess", "9" * 10_000_000, content_type="application/json")
        self.assert_refused(reply, 413, "too_large")

    def test_an_unknown_name_is_404(self) -> None:
        self.assert_refused(self.call("post", "/compute/backlash.guess", {}), 404, "unknown_computation")

    def test_only_signed_in(self) -> None:
        self.assert_refused(self.call("post", "/compute/gearset.identify", {}, by=None), 401, "signed_out")

    def test_too_many_in_a_minute_are_refused(self) -> None:
        question = {"pinion_teeth": 9, "ring_teeth": 41}
        with mock.patch.object(compute_api.RATE, "num_requests", 3):
            replies = [self.call("post", "/compute/gearset.identify", question, by="tam") for _ in range(5)]
        self.assertEqual(replies[0].status_code, 200)
        self.assert_refused(replies[-1], 429, "too_many", words="Wait a minute")

    def test_the_schema_describes_every_computation(self) -> None:
        described = json.loads((Path(settings.ROOT) / "docs" / "computations.openapi.json").read_text())
        for name in registry.names():
            with self.subTest(name):
                operation = described["paths"][f"/api/v1/compute/{name}"]["post"]
                place = operation["requestBody"]["content"]["application/json"]["schema"]["$ref"].rsplit("/", 1)[1]
                fields = described["components"]["schemas"][place]["properties"]
                self.assertEqual(set(fields), set(registry.find(name).question.__dataclass_fields__))
