"""A sentence with its parameters. As text it is English in millimetres and newton-metres; told to a reader, in theirs."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import fields, is_dataclass
from functools import lru_cache
from string import Formatter
from typing import TYPE_CHECKING, Any

from amber_core.words.catalogue import translated
from amber_core.words.figures import shown
from amber_core.words.reader import PLAIN, Reader, current

if TYPE_CHECKING:
    from collections.abc import Iterator

Parameter = str | float | int | None
"""A name, a nested sentence, or a figure in mm, N m or km/h as its place in the sentence says; None leaves the place empty."""

_EMPTY: dict[str, Parameter] = {}
_STORED = '{"say": '
_storing: ContextVar[bool] = ContextVar("storing", default=False)


class Said(str):
    """What is said.

    Attributes
    ----------
    template : str
        The sentence in English with named places, such as "{what} is {value:mm3}."; its name in every catalogue.
    params : mapping
        What stands in the places.
    """

    __slots__ = ("params", "template")

    template: str
    params: Mapping[str, Parameter]

    def __new__(cls, template: str, params: Mapping[str, Parameter] | None = None) -> Said:
        """Prefer `say`."""
        made = super().__new__(cls, _filled(template, params, PLAIN) if params else _plain_text(template))
        made.template, made.params = template, params or _EMPTY
        return made

    def __getnewargs__(self) -> tuple[str, Mapping[str, Parameter]]:  # type: ignore[override]  # str's own is of one text
        return self.template, self.params

    def __deepcopy__(self, memo: dict[int, Any]) -> Said:
        """Itself: what is said never changes."""
        return self

    def told(self, reader: Reader | None = None) -> str:
        """The sentence in the reader's language and units; who reads now, when none is given."""
        to = current() if reader is None else reader
        if to is PLAIN or to == PLAIN:
            return str(self)
        template = translated(self.template, to.language)
        return _filled(template, self.params, to) if self.params else _plain_text(template)

    def __str__(self) -> str:
        return str.__str__(self)

    def as_data(self) -> dict[str, Any]:
        """Template and parameters as plain JSON types: what is stored."""
        return {"say": self.template, "with": {name: stored(value) for name, value in self.params.items()}}

    def shown(self) -> Any:
        """As it is dumped: told to who reads now or, in a block of `storing`, as data."""
        return self.as_data() if _storing.get() else self.told()

    def as_text(self) -> str:
        """The same in a column of text: the template alone where nothing stands in it."""
        return json.dumps(self.as_data(), ensure_ascii=False) if self.params else self.template

    @classmethod
    def of(cls, value: object) -> Said:
        """A sentence from what was stored, or from plain text, which is told as it is.

        Raises
        ------
        ValueError
            When it is neither, or a template whose places cannot be read.
        """
        if isinstance(value, Said):
            return value
        if isinstance(value, str):
            return _from_text(value)
        if isinstance(value, dict) and set(value) == {"say", "with"} and isinstance(value["say"], str) and isinstance(value["with"], dict):
            return cls(value["say"], {str(name): _parameter(one) for name, one in value["with"].items()} or None)
        raise ValueError("a sentence is text, or a template with its parameters")

    @classmethod
    def __get_pydantic_core_schema__(cls, source: object, handler: object) -> dict[str, Any]:
        """For those who show it: whatever `of` reads on the way in, the reader's own sentence on the way out."""
        return {
            "type": "function-plain",
            "function": {"type": "no-info", "function": cls.of},
            "serialization": {"type": "function-plain", "function": _shown, "return_schema": {"type": "any"}},
        }

    @classmethod
    def __get_pydantic_json_schema__(cls, schema: object, handler: object) -> dict[str, Any]:
        """Text, to whom it is told; where it is stored, text or a template with its parameters."""
        if not _storing.get():
            return {"type": "string"}
        parts = {"say": {"type": "string"}, "with": {"type": "object"}}
        template = {"type": "object", "properties": parts, "required": ["say", "with"], "additionalProperties": False}
        return {"anyOf": [{"type": "string"}, template]}


def say(template: str, /, **params: Parameter) -> Said:
    """A sentence of the catalogue.

    Parameters
    ----------
    template : str
        In English, with named places; written out where it is said, so that it can be collected.
    **params
        What stands in the places. Figures whose place says ``mm``, ``Nm`` or ``kmh`` follow the reader's units.

    Examples
    --------
    >>> say("The backlash is {value:mm2}.", value=0.203)
    'The backlash is 0.20 mm.'
    >>> say("The backlash is {value:mm2}.", value=0.203).told(Reader(length="thou"))
    'The backlash is 8.0 thou.'
    """
    return Said(template, params or None)


def figure(value: float, spec: str, unit: str = "") -> Said:
    """A figure by itself, to stand in a sentence: ``figure(0.2, "mm2")``, ``figure(3000, ".0f", "rpm")``."""
    return Said(f"{{value:{spec}}} {{unit}}" if unit else f"{{value:{spec}}}", {"value": value, "unit": unit} if unit else {"value": value})


def together(parts: Iterable[Said], between: str = " ") -> Said:
    """Sentences one after the other."""
    told = [part for part in parts if part]
    if len(told) == 1:
        return told[0]
    said = {f"p{index}": part for index, part in enumerate(told)}
    return Said(between.join(f"{{{name}}}" for name in said), dict(said))


def listed(parts: Iterable[str]) -> Said:
    """Names as a list: "a", "a and b", "a, b and c"."""
    said = [Said.of(part) for part in parts]
    if len(said) < 2:
        return said[0] if said else NOTHING
    return say("{first} and {last}", first=together(said[:-1], ", "), last=said[-1])


@contextmanager
def storing() -> Iterator[None]:
    """Whatever is dumped in the block keeps its sentences as templates with parameters."""
    before = _storing.set(True)
    try:
        yield
    finally:
        _storing.reset(before)


def stored(value: object) -> Any:
    """Plain JSON types, with every sentence as its template and parameters."""
    if isinstance(value, Said):
        return value.as_data()
    if isinstance(value, Mapping):
        return {key: stored(one) for key, one in value.items()}
    if isinstance(value, (list, tuple)):
        return [stored(one) for one in value]
    if is_dataclass(value) and not isinstance(value, type):
        return {field.name: stored(getattr(value, field.name)) for field in fields(value)}
    return value


def retold(value: object) -> Any:
    """What was stored, with every sentence in the words of who reads now."""
    if isinstance(value, dict):
        if set(value) == {"say", "with"}:
            return Said.of(value).told()
        return {key: retold(one) for key, one in value.items()}
    return [retold(one) for one in value] if isinstance(value, list) else value


def _shown(said: str) -> Any:
    return Said.of(said).shown()


def _from_text(text: str) -> Said:
    if text.startswith(_STORED):
        try:
            return Said.of(json.loads(text))
        except ValueError:
            pass  # somebody's own words, which happen to begin so
    return say("{text}", text=text) if "{" in text or "}" in text else Said(text)


def _parameter(value: object) -> Parameter:
    if isinstance(value, dict):
        return Said.of(value)
    if value is None or isinstance(value, (str, int, float)):
        return value
    raise ValueError("a parameter is a name, a figure or a sentence")


@lru_cache(maxsize=4096)
def _pieces(template: str) -> tuple[tuple[str, str | None, str], ...]:
    return tuple((text, name, spec or "") for text, name, spec, _ in Formatter().parse(template))


def _plain_text(template: str) -> str:
    return template if "{" not in template and "}" not in template else _filled(template, _EMPTY, PLAIN)


def _filled(template: str, params: Mapping[str, Parameter] | None, reader: Reader) -> str:
    made: list[str] = []
    for text, name, spec in _pieces(template):
        made.append(text)
        if name is None:
            continue
        value = (params or _EMPTY).get(name, "")
        made.append(value.told(reader) if isinstance(value, Said) else shown(value, spec, reader))
    return "".join(made)


NOTHING = Said("")
"""Nothing to say."""
