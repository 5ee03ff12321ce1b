"""Questions bent out of shape: a good one with some of its fields, at any depth, given figures that no workshop has."""

from __future__ import annotations

import copy
import types
from dataclasses import fields, is_dataclass
from random import Random
from typing import Any, Literal, Union, get_args, get_origin, get_type_hints

_FLOATS = [0.0, -0.0, 1.0, -1.0, 1e-9, -1e-12, 1e-300, 5e-324, 1e6, 1e12, 1e15, -1e15, 1e308, -1e308, 45.0, 90.0, 180.0, 360.0, 0.5, 30.0]
_INTS = [0, 1, -1, 2, 7, 41, 255, 10**6, 10**15, -(10**15), 10**400]
_TEXTS = ["", "245/70R16", "33x12.5R15", "x", "\x00", "9" * 400, "=1+1"]


class Bender:
    """Makes bent questions of one computation, the same ones for the same seed."""

    def __init__(self, question: type[Any], seed: str) -> None:
        self.question, self.draw = question, Random(seed)

    def bent(self, good: dict[str, Any]) -> dict[str, Any]:
        """The question with one to four of its fields bent."""
        found = copy.deepcopy(good)
        for _ in range(self.draw.choice((1, 1, 2, 2, 3, 4))):
            self._bend_one(self.question, found)
        return found

    def _bend_one(self, kind: Any, node: dict[str, Any]) -> None:
        """Walk down a random path and change what lies there."""
        hints = get_type_hints(kind)
        name = self.draw.choice([field.name for field in fields(kind)])
        node[name] = self._changed(hints[name], node.get(name))

    def _changed(self, kind: Any, value: Any) -> Any:
        plain = _inner(kind, value)
        if is_dataclass(plain) and isinstance(value, dict) and self.draw.random() < 0.9:
            self._bend_one(plain, value)
            return value
        if get_origin(plain) is list and isinstance(value, list) and value and self.draw.random() < 0.8:
            if self.draw.random() < 0.25:  # the same one twice, or all alike
                return [value[0]] * self.draw.choice((1, 2, len(value)))
            at = self.draw.randrange(len(value))
            value[at] = self._changed(get_args(plain)[0], value[at])
            return value
        return self._made(kind, 0)

    def _made(self, kind: Any, depth: int) -> Any:
        origin = get_origin(kind)
        if origin in (Union, types.UnionType):
            return self._made(self.draw.choice(get_args(kind)), depth)
        if kind is type(None):
            return None
        if origin is Literal:
            return self.draw.choice(get_args(kind))
        if origin is dict:
            return {name: self._made(get_args(kind)[1], depth + 1) for name in ("a", "b")[: self.draw.randrange(3)]}
        if origin is list:
            return [self._made(get_args(kind)[0], depth + 1) for _ in range(self.draw.choice((0, 1, 2, 2, 3, 3, 8)))]
        if is_dataclass(kind) and isinstance(kind, type):
            hints = get_type_hints(kind)
            names = [field.name for field in fields(kind) if depth < 4 and self.draw.random() < 0.7]
            return {name: self._made(hints[name], depth + 1) for name in names}
        if kind is int:
            return self.draw.choice(_INTS)
        if kind is float:
            return self.draw.choice(_FLOATS) if self.draw.random() < 0.5 else self.draw.choice((-1, 1)) * 10 ** self.draw.uniform(-6, 9)
        return self.draw.random() < 0.5 if kind is bool else self.draw.choice(_TEXTS)


def _inner(kind: Any, value: Any) -> Any:
    """Of a union, the kind that has the value's shape."""
    if get_origin(kind) not in (Union, types.UnionType):
        return kind
    options = [one for one in get_args(kind) if one is not type(None)]
    shape = {dict: is_dataclass, list: lambda one: get_origin(one) is list}.get(type(value), lambda one: False)
    return next((one for one in options if shape(one)), options[0])
