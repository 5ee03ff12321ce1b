"""The glossary: every term, and what a word could mean."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest
from ninja import Query, Router, Schema

from amber_core.words import Said
from amber_core.words.glossary import TERMS, Term, find_terms

router = Router(tags=["glossary"])


class TermOut(Schema):
    """A term of the trade; `drawing` names the picture that shows it."""

    code: str
    name: Said
    also: list[Said]
    meaning: Said
    where: Said
    drawing: str


@router.get("/terms", response=list[TermOut], operation_id="terms")
def terms(request: HttpRequest, search: Annotated[str, Query(max_length=100)] = "") -> list[Term]:
    """All terms by name; with a search those that a word could mean, in either spelling, the closest first."""
    return find_terms(search) if search.strip() else sorted(TERMS, key=lambda term: str(term.name))
