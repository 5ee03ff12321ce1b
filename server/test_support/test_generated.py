"""A few requests made from the schema for every operation and every role; `./amber hostile` asks thousands of a live server."""

from __future__ import annotations

import json
import logging
from typing import Any
from urllib.parse import urlencode

from django.db import transaction
from django.test import Client

from test_support.api_case import ApiTestCase
from test_support.generated import cases, operations, wrong_with
from test_support.test_permissions import PEOPLE
from whole_workshop.tally import tally

_EACH = 4


class Generated(ApiTestCase):
    def test_nothing_fails_and_nothing_refused_leaves_a_trace(self) -> None:
        logging.disable(logging.ERROR)  # the answers are looked at; what a failure logs would say it twice
        self.addCleanup(logging.disable, logging.NOTSET)
        job = self.make_job()
        trial = self.trial_id(self.begin(job))
        known = {"job_id": [job], "work_id": [job], "trial_id": [trial], "code": ["corrie-ls19", "complaint"], "tool": ["bolts"]}
        clients = [self.client_of(name) for name in (*PEOPLE.values(), None)]
        asked = refused = 0
        before = tally()
        for number, operation in enumerate(operations()):
            for turn, case in enumerate(cases(operation, most=_EACH, number=number, known=known)):
                if case.media_type not in (None, "application/json"):
                    continue
                with self.subTest(f"{case.method} {case.path}", body=case.body), transaction.atomic():
                    reply = self.send(clients[(number + turn) % len(clients)] if turn % 2 else clients[1], case)
                    self.assertIsNone(wrong_with(reply.status_code, reply.headers.get("Content-Type", ""), reply.content))
                    asked += 1
                    if reply.status_code >= 400:
                        refused += 1
                        if refused % 20 == 0 and case.method != "GET":
                            self.assertEqual(tally(), before)
                    transaction.set_rollback(True)
        self.assertEqual(tally(), before)
        self.assertGreater(asked, 300)
        self.assertGreater(refused, 100)

    @staticmethod
    def send(client: Client, case: Any) -> Any:
        """The request as a browser would send it."""
        query = {name: value for name, value in (case.query or {}).items() if value is not None}
        address = case.formatted_path + (f"?{urlencode(query, doseq=True)}" if query else "")
        none = type(case.body).__name__ == "NotSet"
        body = case.body if isinstance(case.body, bytes) else b"" if none else json.dumps(case.body).encode()
        return client.generic(case.method, address, body, content_type="application/json")
