"""From plain JSON types to the frozen dataclasses of the core and back, with the path of whatever does not fit."""

from __future__ import annotations

import math
import types
from dataclasses import MISSING, fields, is_dataclass
from typing import Any, Literal, Union, get_args, get_origin, get_type_hints

from amber_core.errors import InvalidInput


def read(kind: type[Any], payload: object) -> tuple[Any, list[str]]:
    """Make a dataclass of a JSON object.

    Parameters
    ----------
    kind : type
        A dataclass; fields are str, bool, int, float, Literal, list, dict by name, dataclasses, and unions of these that differ in
        shape (list, object, plain value), None included.
    payload : object
        What came out of a JSON parser.

    Returns
    -------
    tuple
        The dataclass, and the paths of fields that were given but are not known.

    Raises
    ------
    InvalidInput
        With the path of the first field that is missing, of the wrong type or not finite.
    """
    ignored: list[str] = []
    return _value(kind, payload, "", ignored), ignored


def plain(answer: object) -> dict[str, Any]:
    """The dataclass as plain JSON types."""
    found = _plain(answer)
    assert isinstance(found, dict)
    return found


_BARE = {float, int, str, bool, type(None)}


def _plain(value: Any) -> Any:
    if is_dataclass(value) and not isinstance(value, type):
        return {field.name: _plain(getattr(value, field.name)) for field in fields(value)}
    if isinstance(value, dict):
        return {name: _plain(one) for name, one in value.items()}
    if isinstance(value, (list, tuple)):
        # a long list of plain numbers is looked at as a whole
        return list(value) if set(map(type, value)) <= _BARE else [_plain(one) for one in value]
    return value


_HINTS: dict[type[Any], dict[str, Any]] = {}


def _hints(kind: type[Any]) -> dict[str, Any]:
    """Resolved once for each dataclass: resolving takes longer than many a computation."""
    if kind not in _HINTS:
        _HINTS[kind] = get_type_hints(kind)
    return _HINTS[kind]


def _join(path: str, name: str) -> str:
    return f"{path}.{name}" if path else name


def _object(kind: type[Any], value: object, path: str, ignored: list[str]) -> Any:
    if not isinstance(value, dict):
        raise InvalidInput(path, "Give an object with named fields here.")
    hints = _hints(kind)
    known = {field.name: field for field in fields(kind)}
    ignored.extend(_join(path, str(name)) for name in value if name not in known)
    given: dict[str, Any] = {}
    for name, field in known.items():
        optional = field.default is not MISSING or field.default_factory is not MISSING
        if name not in value or (value[name] is None and optional):
            if not optional:
                raise InvalidInput(_join(path, name), f"The field {name} is missing.")
            continue
        given[name] = _value(hints[name], value[name], _join(path, name), ignored)
    try:
        return kind(**given)
    except InvalidInput as wrong:
        raise (wrong.under(path) if path else wrong) from None


def _number(kind: type[Any], value: object, path: str) -> float | int:
    if isinstance(value, bool) or not isinstance(value, (int, float)):
        raise InvalidInput(path, "Give a plain number here, without a unit or quotation marks.")
    if isinstance(value, int) and abs(value) > 10**15:
        raise InvalidInput(path, "This number is too large to mean anything here.")
    if not math.isfinite(value):
        raise InvalidInput(path, "Give a finite number here.")
    if kind is float:
        return float(value)
    if float(value) != int(value):
        raise InvalidInput(path, "Give a whole number here.")
    return int(value)


def _shaped(kind: Any, value: object) -> bool:
    """Whether a value has the shape of one of the kinds that a union offers."""
    if isinstance(value, list):
        return get_origin(kind) is list
    if isinstance(value, dict):
        return get_origin(kind) is dict or is_dataclass(kind)
    return get_origin(kind) not in (list, dict) and not is_dataclass(kind)


def _value(kind: Any, value: object, path: str, ignored: list[str]) -> Any:
    origin = get_origin(kind)
    if origin in (Union, types.UnionType):
        if value is None:
            return None
        inner = [option for option in get_args(kind) if option is not type(None)]
        return _value(next((option for option in inner if _shaped(option, value)), inner[0]), value, path, ignored)
    if origin is Literal:
        choices = get_args(kind)
        if not isinstance(value, str) or value not in choices:
            raise InvalidInput(path, f"Choose one of: {', '.join(str(choice) for choice in choices)}.")
        return value
    if origin is dict:
        if not isinstance(value, dict):
            raise InvalidInput(path, "Give an object with named values here.")
        return {str(name): _value(get_args(kind)[1], one, _join(path, str(name)), ignored) for name, one in value.items()}
    if origin is list:
        if not isinstance(value, list):
            raise InvalidInput(path, "Give a list here.")
        if get_args(kind)[0] is float and set(map(type, value)) == {float} and math.isfinite(math.fsum(map(abs, value))):
            return value  # a recording has a million of them
        return [_value(get_args(kind)[0], one, f"{path}[{index}]", ignored) for index, one in enumerate(value)]
    if is_dataclass(kind) and isinstance(kind, type):
        return _object(kind, value, path, ignored)
    if kind in (float, int):
        return _number(kind, value, path)
    if not isinstance(value, kind):
        raise InvalidInput(path, "Give text here." if kind is str else "Give true or false here.")
    return value
