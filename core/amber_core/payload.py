"""From plain JSON types to the frozen dataclasses of the core and back, with the path of whatever does not fit."""

from __future__ import annotations

import math
import types
from dataclasses import MISSING, fields, is_dataclass
from typing import Any, Literal, Union, get_args, get_origin, get_type_hints

from amber_core.errors import InvalidInput, NotFinite, UnknownField
from amber_core.words import Said, say

GREATEST = 1e15
"""No figure of a workshop is larger, in any unit that is asked for; squares and products of such figures are still finite."""


def read(kind: type[Any], payload: object) -> Any:
    """Make a dataclass of a JSON object.

    Parameters
    ----------
    kind : type
        A dataclass; fields are str, Said, bool, int, float, Literal, list, dict by name, dataclasses, and unions of these that differ in
        shape (list, object, plain value), None included.
    payload : object
        What came out of a JSON parser.

    Returns
    -------
    dataclass
        The question.

    Raises
    ------
    UnknownField
        For the first field that this computation does not have, with the nearest one that it has.
    InvalidInput
        With the path of the first field that is missing, of the wrong type or not finite.
    """
    return _value(kind, payload, "")


def plain(answer: object) -> dict[str, Any]:
    """The dataclass as plain JSON types.

    Raises
    ------
    NotFinite
        When a figure in it is infinite or not a number, which JSON cannot say.
    """
    found = _plain(answer, "")
    assert isinstance(found, dict)
    return found


def outside(name: str) -> str:
    """A field's name in JSON: without the underscore that keeps it apart from a word of Python's own."""
    return name.rstrip("_")


_BARE = {float, int, str, bool, type(None)}


def _plain(value: Any, name: str) -> Any:
    if is_dataclass(value) and not isinstance(value, type):
        return {outside(field.name): _plain(getattr(value, field.name), field.name) for field in fields(value)}
    if isinstance(value, dict):
        return {key: _plain(one, str(key)) for key, one in value.items()}
    if isinstance(value, (list, tuple)):
        kinds = set(map(type, value))
        if kinds == {float}:  # a spectrum has thousands of them, looked at as a whole
            if not all(map(math.isfinite, value)):
                raise NotFinite(name)
            return list(value)
        return list(value) if kinds <= _BARE - {float} else [_plain(one, name) for one in value]
    if isinstance(value, float) and not math.isfinite(value):
        raise NotFinite(name)
    return value.shown() if isinstance(value, Said) else value


_HINTS: dict[type[Any], dict[str, Any]] = {}


def _hints(kind: type[Any]) -> dict[str, Any]:
    """Resolved once for each dataclass: resolving takes longer than many a computation."""
    if kind not in _HINTS:
        _HINTS[kind] = get_type_hints(kind)
    return _HINTS[kind]


def _join(path: str, name: str) -> str:
    return f"{path}.{name}" if path else name


def _object(kind: type[Any], value: object, path: str) -> Any:
    if not isinstance(value, dict):
        raise InvalidInput(path, say("Give an object with named fields here."))
    hints = _hints(kind)
    known = {outside(field.name): field for field in fields(kind)}
    for name in value:
        if name not in known:
            raise UnknownField(_join(path, str(name)), str(name), list(known))
    given: dict[str, Any] = {}
    for name, field in known.items():
        optional = field.default is not MISSING or field.default_factory is not MISSING
        if name not in value or (value[name] is None and optional):
            if not optional:
                raise InvalidInput(_join(path, name), say("The field {name} is missing.", name=name))
            continue
        given[field.name] = _value(hints[field.name], value[name], _join(path, name))
    try:
        return kind(**given)
    except InvalidInput as wrong:
        raise (wrong.under(path) if path else wrong) from None


def _all_sane(value: list[Any]) -> bool:
    """Whether a list holds finite floats of a sane size alone; a recording has a million of them, so it is looked at as a whole."""
    if set(map(type, value)) != {float} or not (min(value) >= -GREATEST and max(value) <= GREATEST):
        return False
    return math.isfinite(math.fsum(value))  # min and max may step over what is not a number


def _number(kind: type[Any], value: object, path: str) -> float | int:
    if isinstance(value, bool) or not isinstance(value, (int, float)):
        raise InvalidInput(path, say("Give a plain number here, without a unit or quotation marks."))
    if isinstance(value, float) and not math.isfinite(value):
        raise InvalidInput(path, say("Give a finite number here."))
    if abs(value) > GREATEST:
        raise InvalidInput(path, say("This number is too large."))
    if kind is float:
        return float(value)
    if float(value) != int(value):
        raise InvalidInput(path, say("Give a whole number here."))
    return int(value)


def _shaped(kind: Any, value: object) -> bool:
    """Whether a value has the shape of one of the kinds that a union offers."""
    if isinstance(value, list):
        return get_origin(kind) is list
    if isinstance(value, dict):
        return get_origin(kind) is dict or is_dataclass(kind)
    return get_origin(kind) not in (list, dict) and not is_dataclass(kind)


def _value(kind: Any, value: object, path: str) -> Any:
    origin = get_origin(kind)
    if origin in (Union, types.UnionType):
        if value is None:
            return None
        inner = [option for option in get_args(kind) if option is not type(None)]
        return _value(next((option for option in inner if _shaped(option, value)), inner[0]), value, path)
    if origin is Literal:
        choices = get_args(kind)
        if not isinstance(value, str) or value not in choices:
            raise InvalidInput(path, say("Choose one of: {choices}.", choices=", ".join(str(choice) for choice in choices)))
        return value
    if origin is dict:
        if not isinstance(value, dict):
            raise InvalidInput(path, say("Give an object with named values here."))
        return {str(name): _value(get_args(kind)[1], one, _join(path, str(name))) for name, one in value.items()}
    if origin is list:
        if not isinstance(value, list):
            raise InvalidInput(path, say("Give a list here."))
        if get_args(kind)[0] is float and _all_sane(value):
            return value
        return [_value(get_args(kind)[0], one, f"{path}[{index}]") for index, one in enumerate(value)]
    if is_dataclass(kind) and isinstance(kind, type):
        return _object(kind, value, path)
    if kind in (float, int):
        return _number(kind, value, path)
    if kind is Said and isinstance(value, str):
        return Said.of(value)
    if not isinstance(value, kind):
        raise InvalidInput(path, say("Give text here.") if kind in (str, Said) else say("Give true or false here."))
    return value
