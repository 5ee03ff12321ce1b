"""What the run sheet's steps ask of the Driveline desk."""

from __future__ import annotations

from amber_core.words import NOTHING, Said, say
from work.checks import register
from work.models import Area, Work


def answer_missing(work: Work) -> Said:
    """An answer has to be kept on this work."""
    kept = any(one.area == Area.DRIVELINE for one in work.kept_answers.all())
    return NOTHING if kept else say("Nothing is saved to this work yet. Go to the Driveline desk.")


def joints_missing(work: Work) -> Said:
    """A joint has to be judged by hand and eye."""
    return NOTHING if work.joint_inspections.all() else say("No joint is judged yet. Go to the Driveline desk, under Joints.")


def register_checks() -> None:
    """At start-up."""
    register("driveline", answer_missing)
    register("driveline_joints", joints_missing)
