"""What can be wrong with a question: always a sentence a mechanic can act on, and the field it is about."""

from __future__ import annotations

from difflib import get_close_matches

from amber_core.words import Said, say


class InvalidInput(Exception):
    """Something the person asking can mend.

    Parameters
    ----------
    field : str
        Path of the field, such as ``readings[2].value_mm``; empty for the whole input.
    message : str
        One sentence that says what is wrong and what would be right.
    code : str
        A short machine-readable name, ``bad_input`` unless the name of the computation or of a field is wrong.
    hint : str
        The nearest name that is known, where a name is wrong; else empty.
    """

    def __init__(self, field: str, message: Said, code: str = "bad_input", hint: str = "") -> None:
        super().__init__(f"{field}: {message}" if field else str(message))
        self.field = field
        self.message = message
        self.code = code
        self.hint = hint

    def under(self, prefix: str) -> InvalidInput:
        """The same complaint with `prefix` put before its path."""
        if not self.field:
            return InvalidInput(prefix, self.message, self.code, self.hint)
        joint = "" if self.field.startswith("[") else "."
        return InvalidInput(f"{prefix}{joint}{self.field}", self.message, self.code, self.hint)

    def as_dict(self) -> dict[str, dict[str, str]]:
        """The shape every edge of the product answers with."""
        hint = {"hint": self.hint} if self.hint else {}
        return {"error": {"code": self.code, "message": self.message.told(), "field": self.field, **hint}}


class UnknownComputation(InvalidInput):
    """There is no computation of that name."""

    def __init__(self, name: str) -> None:
        super().__init__("name", say("There is no computation called “{name}”.", name=name), "unknown_computation")


class UnknownField(InvalidInput):
    """A field that this computation does not have; its hint is the nearest one that it has."""

    def __init__(self, path: str, name: str, known: list[str]) -> None:
        near = get_close_matches(name.lower(), known, n=1, cutoff=0.0)
        likely = get_close_matches(name.lower(), known, n=1)
        fields = say("There are no fields here.") if not known else say("The nearest is “{value}”.", value=near[0] if near else known[0])
        meant = say("Did you mean “{value}”?", value=likely[0]) if likely else fields
        super().__init__(
            path,
            say("There is no field called “{value}” here. {meant}", value=name[:60], meant=meant),
            "unknown_field",
            (likely or near or known or [""])[0],
        )


class NotFinite(InvalidInput):
    """Every figure is possible by itself, and together they have no finite answer."""

    def __init__(self, field: str) -> None:
        message = say(
            "These figures together give no usable “{field}”: one of them is far from any real part. Check units and decimal points.",
            field=field,
        )
        super().__init__("", message, "not_finite")
