"""`./amber compute NAME < in.json > out.json`: one question to the core, without a database."""

from __future__ import annotations

import json
import sys
from typing import Any

from amber_core import registry
from amber_core.errors import InvalidInput
from amber_core.words import say


def _not_json(text: str) -> float:
    raise ValueError(text)


def answer(name: str, text: str) -> tuple[int, dict[str, Any]]:
    """Exit status and what to print for a question given as JSON text."""
    try:
        registry.find(name)
        try:
            payload = json.loads(text, parse_constant=_not_json)
        except (ValueError, RecursionError):
            raise InvalidInput("", say("The input is not JSON. Give one object with the fields of this computation.")) from None
        return 0, registry.run(name, payload)
    except InvalidInput as wrong:
        return 2, dict(wrong.as_dict())


def main(arguments: list[str]) -> int:
    """Read standard input, write standard output; 2 on bad input."""
    if len(arguments) != 1:
        print("Usage: ./amber compute NAME < in.json > out.json\nNames: " + ", ".join(registry.names()), file=sys.stderr)
        return 64
    status, reply = answer(arguments[0], sys.stdin.read())
    print(json.dumps(reply, indent=2, ensure_ascii=False))
    return status


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
