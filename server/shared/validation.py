"""What was wrong with the shape of a request, in the words of the catalogue instead of the validator's."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from amber_core.words import Said, say

_Context = Mapping[str, Any]


def _bound(context: _Context, *names: str) -> float | str:
    found = next((context[name] for name in names if context.get(name) is not None), "")
    return found if isinstance(found, (int, float)) else str(found)


_SENTENCES: dict[str, Callable[[_Context], Said]] = {
    "missing": lambda _: say("this is missing."),
    "string_too_short": lambda _: say("this is empty. Write something."),
    "string_too_long": lambda context: say("this is too long. The most is {most} characters.", most=_bound(context, "max_length")),
    "too_long": lambda context: say("there are too many. The most is {most}.", most=_bound(context, "max_length")),
    "too_short": lambda context: say("there are too few. The fewest is {least}.", least=_bound(context, "min_length")),
    "json_invalid": lambda _: say("the request was cut off or is not JSON."),
    "greater_than_equal": lambda context: say("this must be at least {least}.", least=_bound(context, "ge")),
    "greater_than": lambda context: say("this must be more than {least}.", least=_bound(context, "gt")),
    "less_than_equal": lambda context: say("this must be at most {most}.", most=_bound(context, "le")),
    "less_than": lambda context: say("this must be less than {most}.", most=_bound(context, "lt")),
    "finite_number": lambda _: say("this must be a finite number."),
    "literal_error": lambda context: say("choose one of: {choices}.", choices=_bound(context, "expected")),
    "enum": lambda context: say("choose one of: {choices}.", choices=_bound(context, "expected")),
    "extra_forbidden": lambda _: say("there is no such field here."),
    "string_pattern_mismatch": lambda _: say("this is not written the way it should be."),
}
_KINDS: dict[str, Said] = {
    "int": say("this must be a whole number."),
    "float": say("this must be a number."),
    "bool": say("this must be true or false."),
    "string": say("this must be text."),
    "list": say("this must be a list."),
    "dict": say("this must be an object with named values."),
    "model": say("this must be an object with named values."),
    "dataclass": say("this must be an object with named values."),
    "uuid": say("this is not an id."),
    "datetime": say("this must be a date and time."),
    "date": say("this must be a date."),
}


def said_of(error: Mapping[str, Any]) -> Said:
    """One error of the validator as a sentence; those that nothing is known of get the plainest."""
    kind = str(error["type"])
    ours = (error.get("ctx") or {}).get("error")
    if isinstance(ours, ValueError) and ours.args and isinstance(ours.args[0], Said):
        return ours.args[0]
    known = _SENTENCES.get(kind)
    if known is not None:
        return known(error.get("ctx") or {})
    return _KINDS.get(kind.split("_")[0], say("this cannot be read here."))
