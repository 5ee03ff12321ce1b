"""What the run sheet's steps ask of the Noise finder."""

from __future__ import annotations

from amber_core.words import NOTHING, Said, say
from work.checks import register
from work.models import Area, Work


def answer_missing(work: Work) -> Said:
    """An answer has to be kept on this work."""
    kept = any(one.area == Area.NOISE for one in work.kept_answers.all())
    return NOTHING if kept else say("Nothing is saved to this work yet. Go to the Noise finder.")


def register_checks() -> None:
    """At start-up."""
    register("noise", answer_missing)
