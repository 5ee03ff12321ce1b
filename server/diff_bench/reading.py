"""What was typed at a tool, into the question of its computation: every field read once, every slip told where it stands."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Any

from amber_core.errors import InvalidInput
from amber_core.quantities import LONGEST_TYPED, parse
from amber_core.typed_stack import pieces_in
from amber_core.words import NOTHING, Said, say
from diff_bench.fields import Field, Tool

Values = dict[str, str | list[str] | list[dict[str, str]]]
"""As typed, by the name of the field: a text, a list of readings, or the rows of a table."""
MOST_ROWS = 2000
MOST_IN_A_STACK = 12
_NUMBER = re.compile(r"([+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+))\s*(?:°C|°|deg|K|min|%)?")
_SHOWN = {
    "mm": say("mm"),
    "in": say("in"),
    "hundredths_mm": say("0.01 mm"),
    "thou": say("thou"),
    "nm": say("Nm"),
    "inlb": say("in-lb"),
    "n": say("N"),
    "kpa": say("kPa"),
}
_PLAIN = {"temperature": say("°C"), "angle": say("°"), "minutes": say("min")}
_DIMENSIONS = frozenset({"length", "torque", "force", "pressure"})


@dataclass(frozen=True)
class Units:
    """Units of bare figures."""

    length: str
    torque: str

    def of(self, field: Field) -> str:
        """That of a bare figure of a field."""
        large = "in" if self.length == "thou" else "mm"
        length = self.length if field.fine else large
        return {"length": length, "stack": large, "torque": self.torque, "force": "n", "pressure": "kpa"}.get(field.kind, "")

    def shown(self, field: Field) -> Said:
        """The same as it stands behind a label."""
        return _PLAIN.get(field.kind) or _SHOWN.get(self.of(field), NOTHING)


@dataclass(frozen=True)
class Slip:
    """What is wrong with a field, by its path among the values."""

    field: str
    text: Said


@dataclass(frozen=True)
class Read:
    """The question, what was read beside it, slips, and the labels of what is still missing."""

    question: dict[str, Any]
    beside: dict[str, Any]
    wrong: list[Slip]
    missing: list[Said]


def asked(tool: Tool, field: Field, values: Values) -> bool:
    """Whether a field belongs to what was chosen."""
    if field.when is None:
        return True
    name, code = field.when
    begin = next((one.begin for one in tool.fields if one.name == name), "")
    return (values.get(name) or begin) == code


def read(tool: Tool, values: Values, units: Units) -> Read:
    """Read all that was typed.

    Raises
    ------
    InvalidInput
        For a field that the tool does not have.
    """
    known = {one.name for one in tool.fields}
    for name in values:
        if name not in known:
            raise InvalidInput(f"values.{name}"[:200], say("This tool asks for no such thing."))
    question: dict[str, Any] = {}
    beside: dict[str, Any] = {}
    wrong: list[Slip] = []
    missing: list[Said] = []
    for field in tool.fields:
        if not asked(tool, field, values):
            continue
        found, slips = _field(field, values.get(field.name, field.begin), units)
        wrong += slips
        if found is None:
            if field.needed and not slips:
                missing.append(field.label)
        elif field.beside:
            beside[field.name] = found
        else:
            _put(question, field.name, found)
    return Read(question, beside, wrong, missing)


def _put(question: dict[str, Any], path: str, value: Any) -> None:
    *above, last = path.split(".")
    for name in above:
        question = question.setdefault(name, {})
    question[last] = value


def _field(field: Field, given: Any, units: Units) -> tuple[Any, list[Slip]]:
    if field.columns:
        return _table(field, given, units)
    if field.angles or field.many:
        return _list(field, given, units)
    return _text(field, given if isinstance(given, str) else "", field.name, units)


def _text(field: Field, typed: str, path: str, units: Units) -> tuple[Any, list[Slip]]:
    if not typed.strip():
        return None, []
    try:
        return _value(field, typed, path, units), []
    except InvalidInput as slip:
        return None, [Slip(slip.field, slip.message)]


def _value(field: Field, typed: str, path: str, units: Units) -> Any:
    if field.kind == "flag":
        return typed == "yes"
    if field.kind == "choice":
        if typed not in field.options:
            raise InvalidInput(path, say("Choose one of these."))
        return typed
    if field.kind == "stack":
        return sum(one.value for one in pieces_in(typed, unit=units.of(field), field=path, most=MOST_IN_A_STACK))
    if field.kind in _DIMENSIONS:
        return parse(typed, dimension=field.kind, unit=units.of(field), field=path).value  # type: ignore[arg-type]
    found = _NUMBER.fullmatch(typed.strip().replace("\u2212", "-")) if len(typed) <= LONGEST_TYPED else None
    if found is None:
        raise InvalidInput(path, say("“{typed}” is not a number.", typed=typed.strip()[:LONGEST_TYPED]))
    value = float(found[1].replace(",", "."))
    if field.kind == "money":
        return round(value * 100.0)
    if field.kind != "count":
        return value
    if value != int(value):
        raise InvalidInput(path, say("{value:g} is not a whole number.", value=value))
    return int(value)


def _list(field: Field, given: Any, units: Units) -> tuple[Any, list[Slip]]:
    typed = [one for one in given if isinstance(one, str)] if isinstance(given, list) else []
    found: list[Any] = []
    slips: list[Slip] = []
    for index, one in enumerate(typed[:MOST_ROWS]):
        value, wrong = _text(field, one, f"{field.name}[{index}]", units)
        slips += wrong
        if value is not None:
            found.append({"angle_deg": 360.0 * index / field.angles, "value_mm": value} if field.angles else value)
    fewest = field.many[0] if field.many else 1
    return (found if len(found) >= fewest else None), slips


def _table(field: Field, given: Any, units: Units) -> tuple[Any, list[Slip]]:
    rows = [one for one in given if isinstance(one, dict)] if isinstance(given, list) else []
    if len(rows) > MOST_ROWS:
        return None, [Slip(field.name, say("Give {most} rows at the most.", most=MOST_ROWS))]
    found: list[Any] = []
    slips: list[Slip] = []
    for index, row in enumerate(rows):
        if not any(str(one).strip() for one in row.values()):
            continue
        cells: dict[str, Any] = {}
        for column in field.columns:
            path = f"{field.name}[{index}].{column.name}"
            value, wrong = _text(column, str(row.get(column.name) or column.begin), path, units)
            slips += wrong
            if value is not None:
                cells[column.name] = value
            elif column.needed and not wrong:
                slips.append(Slip(path, say("{what} is missing in row {row}.", what=column.label, row=index + 1)))
        found.append(list(cells.values()) if field.pairs else cells)
    return (found or None), slips
