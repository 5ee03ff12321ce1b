"""The application's schema as it is published: what the API's classes say, without what says nothing."""

from __future__ import annotations

import json
from typing import Any

from config.api import api


def document() -> dict[str, Any]:
    """The OpenAPI document, in plain JSON types.

    Titles that only repeat a field's name are left out, what may be null is written as one type, and the refusals that every write shares
    stand once.
    """
    found: dict[str, Any] = json.loads(json.dumps(api.get_openapi_schema(), default=str))
    found["components"]["responses"] = {}
    for methods in found["paths"].values():
        for operation in methods.values():
            _share_refusals(operation["responses"], found["components"]["responses"])
    return dict(_tidy(found))


def _share_refusals(responses: dict[str, Any], shared: dict[str, Any]) -> None:
    for status, response in responses.items():
        schema = response.get("content", {}).get("application/json", {}).get("schema", {})
        if schema.get("$ref") == "#/components/schemas/ErrorOut":
            shared["Refused"] = {**response, "description": "Refused, with one sentence"}
            responses[status] = {"$ref": "#/components/responses/Refused"}


def _tidy(node: Any) -> Any:
    if isinstance(node, list):
        return [_tidy(one) for one in node]
    if not isinstance(node, dict):
        return node
    schema = "type" in node or "anyOf" in node or "$ref" in node
    plain = {name: _tidy(one) for name, one in node.items() if not (schema and name == "title" and isinstance(one, str))}
    options = plain.get("anyOf")
    if isinstance(options, list) and len(options) == 2 and options[1] == {"type": "null"} and isinstance(options[0].get("type"), str):
        del plain["anyOf"]
        # an enumeration lists its values, null among them
        listed = {"enum": [*options[0]["enum"], None]} if "enum" in options[0] else {}
        return {**plain, **options[0], **listed, "type": [options[0]["type"], "null"]}
    return plain
