"""Every computation in one OpenAPI document of its own; what several of them share stands in it once."""

from __future__ import annotations

from typing import Any

from pydantic import TypeAdapter

import amber_core
from amber_core import registry
from amber_core.payload import outside

_REF = "#/components/schemas/{model}"
_ERROR = {
    "type": "object",
    "required": ["error"],
    "properties": {
        "error": {
            "type": "object",
            "required": ["code", "message", "field"],
            "properties": {
                "code": {"type": "string"},
                "message": {"type": "string", "description": "One sentence that says what is wrong and what would be right."},
                "field": {"type": "string", "description": "Path of the field, such as readings[2].value_mm."},
                "hint": {"type": "string", "description": "The nearest known name, where a field is not known."},
            },
        }
    },
}


def computations() -> dict[str, Any]:
    """The document, in plain JSON types."""
    found = {name: registry.find(name) for name in registry.names()}
    adapters = [
        (f"{name} {part}", "validation", TypeAdapter(getattr(one, part))) for name, one in found.items() for part in ("question", "answer")
    ]
    where, shared = TypeAdapter.json_schemas(adapters, ref_template=_REF)  # type: ignore[arg-type]
    wrong = {"description": "Something to mend", "content": {"application/json": {"schema": {"$ref": _REF.format(model="Error")}}}}

    def body(name: str, part: str) -> dict[str, Any]:
        return {"application/json": {"schema": where[(f"{name} {part}", "validation")]}}

    paths = {
        f"/api/v1/compute/{name}": {
            "post": {
                "operationId": name.replace(".", "_"),
                "summary": (one.function.__doc__ or name).split("\n")[0],
                "requestBody": {"required": True, "content": body(name, "question")},
                "responses": {"200": {"description": "The answer", "content": body(name, "answer")}, "422": wrong},
            }
        }
        for name, one in found.items()
    }
    schemas = {name: _as_in_json(one) for name, one in shared.get("$defs", {}).items()} | {"Error": _ERROR}
    info = {"title": "Amber Pinion: computations", "version": amber_core.__version__}
    return {"openapi": "3.1.0", "info": info, "paths": paths, "components": {"schemas": schemas}}


def _as_in_json(model: dict[str, Any]) -> dict[str, Any]:
    """A model with its fields named as the codec names them."""
    if "properties" not in model:
        return model
    properties = {outside(name): one for name, one in model["properties"].items()}
    return model | {"properties": properties} | ({"required": [outside(one) for one in model["required"]]} if "required" in model else {})
