"""What can be wrong with a question: always a sentence a mechanic can act on, and the field it is about."""

from __future__ import annotations


class InvalidInput(Exception):
    """Something the person asking can mend.

    Parameters
    ----------
    field : str
        Path of the field, such as ``readings[2].value_mm``; empty for the whole input.
    message : str
        One sentence that says what is wrong and what would be right.
    code : str
        A short machine-readable name, ``bad_input`` unless the name of the computation itself is wrong.
    """

    def __init__(self, field: str, message: str, code: str = "bad_input") -> None:
        super().__init__(f"{field}: {message}" if field else message)
        self.field = field
        self.message = message
        self.code = code

    def under(self, prefix: str) -> InvalidInput:
        """The same complaint with `prefix` put before its path."""
        if not self.field:
            return InvalidInput(prefix, self.message, self.code)
        joint = "" if self.field.startswith("[") else "."
        return InvalidInput(f"{prefix}{joint}{self.field}", self.message, self.code)

    def as_dict(self) -> dict[str, dict[str, str]]:
        """The shape every edge of the product answers with."""
        return {"error": {"code": self.code, "message": self.message, "field": self.field}}


class UnknownComputation(InvalidInput):
    """There is no computation of that name."""

    def __init__(self, name: str) -> None:
        super().__init__("name", f"There is no computation called {name!r}.", "unknown_computation")
