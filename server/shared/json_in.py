"""JSON that comes from outside: read once, in one way, with a sentence for everything that is none."""

from __future__ import annotations

import json
import math
import re
from typing import Any

from amber_core.words import NOTHING, Said, say, together
from shared.refusals import Refusal


def read_json(content: bytes, *, after: Said = NOTHING) -> Any:
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
        `not_json` for what is no text, cut off, too deep, no number that can be stored, or holds a NUL or half a character.
    """
    try:
        found = json.loads(content.decode("utf-8-sig"), parse_constant=_no_number, parse_int=_whole, parse_float=_number)
    except UnicodeDecodeError:
        raise _refused(say("This is not text, so it cannot be read."), after) from None
    except json.JSONDecodeError as wrong:
        text = say("It is cut off or damaged at line {lineno}. Send all of it again.", lineno=wrong.lineno)
        raise _refused(text, after) from None
    except RecursionError:
        raise _refused(say("It is nested too deeply to be read."), after) from None
    except ValueError as wrong:  # a number of thousands of digits, NaN, Infinity
        word = str(wrong) if str(wrong) in _NONE else say("A number in it is too long")
        raise _refused(say("{word}: no such figure can be stored.", word=word), after) from None
    if _ESCAPED.search(content) and _unstorable(found):
        raise _refused(say("A text in it has a character that cannot be stored."), after)
    return found


_NONE = ("NaN", "Infinity", "-Infinity")
_ESCAPED = re.compile(rb"\\u(?:0000|[dD][89a-fA-F])")
_LONGEST_WHOLE = 18  # digits: what a database keeps as a whole number


def _no_number(text: str) -> float:
    raise ValueError(text)


def _whole(text: str) -> int:
    if len(text) > _LONGEST_WHOLE:
        raise ValueError
    return int(text)


def _number(text: str) -> float:
    found = float(text)
    if not math.isfinite(found):
        raise ValueError
    return found


def _refused(text: Said, after: Said) -> Refusal:
    return Refusal(together([text, after]), code="not_json")


def _unstorable(found: Any) -> bool:
    """Whether a text in it holds a NUL or half a character (a lone surrogate), which no database keeps."""
    waiting = [found]
    while waiting:
        one = waiting.pop()
        if isinstance(one, str):
            if any(sign == "\0" or "\ud800" <= sign <= "\udfff" for sign in one):
                return True
        elif isinstance(one, dict):
            waiting.extend(one.keys())
            waiting.extend(one.values())
        elif isinstance(one, list):
            waiting.extend(one)
    return False
