"""Requests made from the published schema: what it allows, and what it does not."""

from __future__ import annotations

import json
import random
from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path
from typing import Any

import schemathesis
from django.conf import settings
from hypothesis import HealthCheck, Phase, given
from hypothesis import seed as seeded
from hypothesis import settings as explored
from hypothesis.errors import Unsatisfiable
from schemathesis import GenerationMode

# these end the login that everything else is asked under
_LEFT_OUT = {"sign_out", "change_person", "set_persons_password", "change_password", "set_shop"}
_REAL_ONES_OF_TEN = 7
_OF_THE_WEB_SERVER = (414, 431)  # an address or header too long even to be handed on


def operations() -> list[Any]:
    """Every operation of docs/openapi.json."""
    raw = json.loads((Path(settings.ROOT) / "docs" / "openapi.json").read_text(encoding="utf-8"))
    every: list[Any] = list(schemathesis.openapi.from_dict(raw).get_all_operations())
    found = [one.ok() for one in every]
    return [one for one in found if one.definition.raw.get("operationId") not in _LEFT_OUT]


def cases(operation: Any, *, most: int, number: int, known: Mapping[str, Sequence[str]]) -> Iterator[Any]:
    """Up to `most` requests for one operation, half of them against its schema; the same ones for the same `number`.

    `known` has real ids by the name of a path's parameter: with them most requests get past "not found".
    """
    chosen = random.Random(number)  # noqa: S311 - the same requests again are wanted
    for mode in (GenerationMode.POSITIVE, GenerationMode.NEGATIVE):
        for case in _made(operation, mode, (most + 1) // 2, number):
            for name in case.path_parameters or {}:
                if known.get(name) and chosen.randrange(10) < _REAL_ONES_OF_TEN:
                    case.path_parameters[name] = chosen.choice(known[name])
            yield case


def _made(operation: Any, mode: GenerationMode, most: int, number: int) -> list[Any]:
    made: list[Any] = []

    @seeded(number)
    @explored(max_examples=most, database=None, phases=[Phase.generate], suppress_health_check=list(HealthCheck), deadline=None)
    @given(operation.as_strategy(generation_mode=mode))
    def collect(case: Any) -> None:
        made.append(case)

    try:
        collect()
    except Unsatisfiable:  # nothing that is against this operation's schema can be sent
        return []
    return made


def wrong_with(status: int, content_type: str, body: bytes) -> str | None:
    """What an answer breaks of what every answer promises; None when nothing."""
    if status >= 500:
        return f"answered {status}"
    if status < 400 or status in _OF_THE_WEB_SERVER:
        return None
    try:
        error = json.loads(body)["error"]
        shaped = isinstance(error["code"], str) and isinstance(error["message"], str) and isinstance(error["field"], str)
    except (ValueError, KeyError, TypeError):
        shaped = False
    if not shaped or not content_type.startswith("application/json"):
        return f"{status} is not in the shape of an error: {body[:80]!r}"
    return None if error["message"].strip() else f"{status} without a sentence"
