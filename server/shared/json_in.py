"""JSON that comes from outside: read once, in one way, with a sentence for everything that is none."""

from __future__ import annotations

import json
from typing import Any

from shared.refusals import Refusal


def read_json(content: bytes, *, after: str = "") -> Any:
    """What a JSON text holds.

    Parameters
    ----------
    content : bytes
        UTF-8, with or without a byte order mark.
    after : str
        Put behind each sentence, such as "Nothing was imported."

    Raises
    ------
    Refusal
        `not_json` for what is no text, cut off, too deep, no number that JSON knows, or holds a NUL, which no database keeps.
    """
    try:
        found = json.loads(content.decode("utf-8-sig"), parse_constant=_no_number)
    except UnicodeDecodeError:
        raise _refused("This is not text, so it cannot be read.", after) from None
    except json.JSONDecodeError as wrong:
        text = f"It is cut off or damaged at line {wrong.lineno}: send the whole of it again."
        raise _refused(text, after) from None
    except RecursionError:
        raise _refused("It is nested far too deep to be read.", after) from None
    except ValueError as wrong:  # a number of thousands of digits, NaN, Infinity
        word = str(wrong) if str(wrong) in _NONE else "A number in it is far too long"
        raise _refused(f"{word}: no such figure can be stored.", after) from None
    if "\\u0000" in content.decode("utf-8-sig") and _has_nul(found):
        raise _refused("A text in it holds a character that cannot be stored (NUL).", after)
    return found


_NONE = ("NaN", "Infinity", "-Infinity")


def _no_number(text: str) -> float:
    raise ValueError(text)


def _refused(text: str, after: str) -> Refusal:
    return Refusal(f"{text} {after}".strip(), code="not_json")


def _has_nul(found: Any) -> bool:
    waiting = [found]
    while waiting:
        one = waiting.pop()
        if isinstance(one, str):
            if "\0" in one:
                return True
        elif isinstance(one, dict):
            waiting.extend(one.keys())
            waiting.extend(one.values())
        elif isinstance(one, list):
            waiting.extend(one)
    return False
