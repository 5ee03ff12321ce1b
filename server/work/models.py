"""A piece of work of a job: its kind, the assembly it is on, the sheet revision it is judged by, its run sheet and kept answers."""

from __future__ import annotations

import uuid
from typing import ClassVar, Self

from django.conf import settings
from django.db import models
from django.db.models import F, Q
from django.utils import timezone

from accounts.models import of_shop
from amber_core.procedures.kinds import KINDS
from amber_core.words import say
from jobs.models import FLOOR_ORDER, Job, JobState
from shared.models import Record, one_of
from shared.scope import OfShop
from stores.models import SheetRevision
from stores.sheets import NO_SHEET, Sheet, sheet_at
from vehicles.models import END_OF, Assembly, AxleEnd, Place

RING_AND_PINION = "ring_and_pinion"
"""The kind that every piece of work was of before there were others."""


class WorkQuerySet(models.QuerySet["Work"]):
    def with_job(self) -> WorkQuerySet:
        """Everything that is about a piece of work, in one query."""
        read = self.select_related("job__vehicle", "assembly", "sheet_revision__family", "procedure")
        # what never changes is read once in a process, by its hash
        return read.defer("sheet_revision__content", "procedure__content")


def kind_title(kind: str) -> str:
    """A kind of work in words."""
    return str(KINDS[kind].title) if kind in KINDS else kind.replace("_", " ").capitalize()


class ProcedureRevision(Record):
    """The library of steps of one kind of work as a release of the core has it; never changed, only followed by a newer one."""

    kind = models.SlugField(max_length=40)
    number = models.PositiveIntegerField()
    core_version = models.CharField(max_length=20)
    content = models.JSONField()
    content_hash = models.CharField(max_length=64)

    class Meta:
        ordering = ["kind", "number"]
        constraints = [
            models.CheckConstraint(condition=~Q(kind=""), name="procedure_has_a_kind"),
            models.UniqueConstraint(fields=["kind", "number"], name="procedure_number_once"),
        ]

    def __str__(self) -> str:
        return f"{kind_title(self.kind)}, procedure {self.number}"


class KindShape(Record):
    """What the shop adds to a kind of work (amber_core.procedures.shaping). The latest of a kind counts for work booked from now on."""

    shop = of_shop()
    kind = models.SlugField(max_length=40)
    number = models.PositiveIntegerField()
    content = models.JSONField()
    reason = models.CharField(max_length=200)

    objects: ClassVar[OfShop[Self]] = OfShop()

    class Meta:
        ordering = ["kind", "number"]
        constraints = [
            models.UniqueConstraint(fields=["shop", "kind", "number"], name="kind_shape_number_once"),
            models.CheckConstraint(condition=~Q(kind="") & ~Q(reason=""), name="kind_shape_has_a_reason"),
        ]

    def __str__(self) -> str:
        return f"{kind_title(self.kind)}, shape {self.number}"


class OwnKindRevision(Record):
    """A kind of work that the shop put together from blocks (amber_core.procedures.making). The latest of a code counts."""

    shop = of_shop()
    kind = models.SlugField(max_length=40)
    number = models.PositiveIntegerField()
    content = models.JSONField()
    reason = models.CharField(max_length=200)

    objects: ClassVar[OfShop[Self]] = OfShop()

    class Meta:
        ordering = ["kind", "number"]
        constraints = [
            models.UniqueConstraint(fields=["shop", "kind", "number"], name="own_kind_number_once"),
            models.CheckConstraint(condition=Q(kind__startswith="own_") & ~Q(reason=""), name="own_kind_has_a_reason"),
        ]

    def __str__(self) -> str:
        return f"{self.content['title']}, revision {self.number}"


class Work(models.Model):
    """One piece of work. The first of a job has the job's own id, so that addresses and files from before lead to it.

    `sheet_revision` is what it is judged by, whatever the Stores say later; none while no family is known. `version` counts changes of its
    card: assembly and sheet.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="works")
    number = models.PositiveSmallIntegerField(default=1)
    kind = models.SlugField(max_length=40, default=RING_AND_PINION)
    own_title = models.CharField(max_length=80, blank=True)
    assembly = models.ForeignKey(Assembly, on_delete=models.PROTECT, related_name="works")
    sheet_revision = models.ForeignKey(SheetRevision, null=True, blank=True, on_delete=models.PROTECT, related_name="works")
    procedure = models.ForeignKey(ProcedureRevision, on_delete=models.PROTECT, related_name="works")
    state = models.CharField(max_length=20, choices=JobState, default=JobState.BOOKED)
    begun = models.BooleanField(default=False)
    next_action = models.CharField(max_length=800)
    version = models.PositiveIntegerField(default=1)
    created_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.PROTECT, related_name="+")
    created_by_name = models.CharField(max_length=120)
    created_at = models.DateTimeField(default=timezone.now)
    updated_at = models.DateTimeField(default=timezone.now)
    signed_off_at = models.DateTimeField(null=True, blank=True)
    as_left = models.JSONField(default=list, blank=True)
    """What it measured when it was signed off, a line each (work.as_left); empty while it is open."""

    objects = WorkQuerySet.as_manager()
    kept: list[KeptAnswer]
    """Of one desk, where `kept_of` read them along."""

    class Meta:
        ordering = ["number"]
        constraints = [
            models.CheckConstraint(condition=~Q(kind=""), name="work_has_a_kind"),
            one_of("state", JobState, "work_state_known"),
            models.UniqueConstraint(fields=["job", "number"], name="work_number_once_per_job"),
            models.CheckConstraint(
                condition=Q(state="done", signed_off_at__isnull=False) | (~Q(state="done") & Q(signed_off_at__isnull=True)),
                name="work_done_means_signed",
            ),
        ]

    def __str__(self) -> str:
        return f"{self.job.number}.{self.number} {self.title}"

    @property
    def sheet(self) -> Sheet:
        """The sheet that this work is judged by; one that limits nothing where no family is known."""
        return NO_SHEET if self.sheet_revision is None else sheet_at(self.sheet_revision)

    @property
    def axle(self) -> AxleEnd:
        """Which end of the vehicle it is on."""
        return END_OF.get(Place(self.assembly.place), AxleEnd.REAR)

    @property
    def title(self) -> str:
        """What is done to what, as in "Ring and pinion, rear axle"."""
        return f"{self.kind_word}, {self.assembly.get_place_display().lower()}"

    @property
    def kind_word(self) -> str:
        """The kind in words; of the shop's own as it was called when it was booked."""
        return self.own_title or kind_title(self.kind)

    @property
    def on_bench(self) -> bool:
        """Whether it is set up on the Set-up bench."""
        kind = KINDS.get(self.kind)
        return kind is not None and kind.bench and self.sheet_revision_id is not None

    @property
    def floor_order(self) -> int:
        """Where its state stands on the Floor."""
        return FLOOR_ORDER[JobState(self.state)]


class GearSetRecord(Record):
    """An identification of the gear set: what was counted and what it gave. The latest one counts."""

    work = models.ForeignKey(Work, on_delete=models.PROTECT, related_name="gear_sets")
    pinion_teeth = models.PositiveSmallIntegerField()
    ring_teeth = models.PositiveSmallIntegerField()
    question = models.JSONField()
    answer = models.JSONField()

    class Meta:
        ordering = ["id"]
        constraints = [
            models.CheckConstraint(condition=Q(pinion_teeth__gte=3, ring_teeth__gt=F("pinion_teeth")), name="gear_set_teeth_sane")
        ]

    def __str__(self) -> str:
        return f"{self.pinion_teeth}/{self.ring_teeth}"


class Outcome(models.TextChoices):
    PASSED = "passed", say("Passed")
    CUT_SHORT = "cut_short", say("Cut short")
    SKIPPED = "skipped", say("Skipped")
    BEGUN = "begun", say("Running")
    OUT = "out", say("Read, and out")
    TAKEN_BACK = "taken_back", say("Taken back")


LETS_ON = (Outcome.PASSED, Outcome.CUT_SHORT, Outcome.SKIPPED)
"""What makes a step count as passed."""


class StepRecord(Record):
    """What happened at a step of the run sheet. The latest row of a step counts; `until` is when a clock that was begun is over."""

    work = models.ForeignKey(Work, on_delete=models.PROTECT, related_name="step_records")
    step_code = models.SlugField(max_length=40)
    outcome = models.CharField(max_length=20, choices=Outcome)
    entered = models.CharField(max_length=200, blank=True)
    value = models.FloatField(null=True)
    until = models.DateTimeField(null=True, blank=True)
    note = models.CharField(max_length=400, blank=True)

    class Meta:
        ordering = ["id"]
        indexes = [
            models.Index(fields=["work", "id"], name="step_record_by_work"),
            models.Index(fields=["until"], name="step_record_running", condition=Q(until__isnull=False)),
        ]
        constraints = [
            one_of("outcome", Outcome, "step_outcome_known"),
            models.CheckConstraint(condition=Q(until__isnull=True) | Q(outcome="begun"), name="step_until_is_of_a_clock"),
            models.CheckConstraint(condition=~Q(outcome__in=("skipped", "cut_short"), note=""), name="step_left_out_has_a_reason"),
        ]

    def __str__(self) -> str:
        return f"{self.step_code}: {self.outcome}"


class StepReading(Record):
    """One value that a step read: as it was typed, and in mm, N m, l, km or as a plain figure. `as_found.` names fill the as-found book."""

    record = models.ForeignKey(StepRecord, on_delete=models.PROTECT, related_name="readings")
    name = models.CharField(max_length=60)
    entered = models.CharField(max_length=60)
    value = models.FloatField()

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["record", "name"], name="step_reading_once"),
            models.CheckConstraint(condition=~Q(name=""), name="step_reading_has_a_name"),
        ]

    def __str__(self) -> str:
        return f"{self.name}: {self.entered}"


class StepPhoto(Record):
    """A picture taken at a step of the run sheet."""

    work = models.ForeignKey(Work, on_delete=models.PROTECT, related_name="step_photos")
    step_code = models.SlugField(max_length=40)
    content = models.BinaryField()
    media_type = models.CharField(max_length=20)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.CheckConstraint(condition=Q(media_type__in=("image/jpeg", "image/png", "image/webp")), name="step_photo_is_a_picture"),
        ]

    def __str__(self) -> str:
        return f"{self.step_code}: photo"


class SheetAdoption(Record):
    """A piece of work went over to another revision of its sheet, and why."""

    work = models.ForeignKey(Work, on_delete=models.PROTECT, related_name="sheet_adoptions")
    before = models.ForeignKey(SheetRevision, on_delete=models.PROTECT, related_name="+")
    after = models.ForeignKey(SheetRevision, on_delete=models.PROTECT, related_name="+")
    reason = models.CharField(max_length=200)

    class Meta:
        ordering = ["id"]
        constraints = [models.CheckConstraint(condition=~Q(reason=""), name="sheet_adoption_has_a_reason")]

    def __str__(self) -> str:
        return f"{self.before} to {self.after}: {self.reason}"


class WayChoice(Record):
    """Which of several ways this work is done in, and why. The latest of a question counts."""

    work = models.ForeignKey(Work, on_delete=models.PROTECT, related_name="way_choices")
    question = models.SlugField(max_length=40)
    way = models.SlugField(max_length=40)
    reason = models.CharField(max_length=200)

    class Meta:
        ordering = ["id"]
        constraints = [models.CheckConstraint(condition=~Q(reason=""), name="way_choice_has_a_reason")]

    def __str__(self) -> str:
        return f"{self.question}: {self.way}"


class Area(models.TextChoices):
    RATIO = "ratio", say("Ratio desk")
    DRIVELINE = "driveline", say("Driveline desk")
    NOISE = "noise", say("Noise finder")
    DIFF = "diff", say("Diff bench")


class KeptAnswer(Record):
    """What a desk was asked and what came out, with the version that worked it out; an old one is shown as it was.

    `about` is the desk's own: which shaft, whether it was felt or recorded, which tool of the bench. What a step of the run sheet was
    measured by names that step, and `summary` is the little of it that the run sheet shows.
    """

    work = models.ForeignKey(Work, on_delete=models.PROTECT, related_name="kept_answers")
    area = models.CharField(max_length=20, choices=Area)
    about = models.CharField(max_length=20, blank=True)
    title = models.CharField(max_length=200)
    inputs = models.JSONField()
    answer = models.JSONField()
    engine_version = models.CharField(max_length=20)
    step_code = models.SlugField(max_length=40, blank=True)
    summary = models.JSONField(default=dict)

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["work", "area", "id"], name="kept_answer_by_work")]
        constraints = [
            one_of("area", Area, "kept_answer_area_known"),
            models.CheckConstraint(condition=~Q(title="") & ~Q(engine_version=""), name="kept_answer_is_named"),
            models.CheckConstraint(
                condition=Q(area="ratio", about="")
                | Q(area="driveline", about__in=("rear", "front"))
                | Q(area="noise", about__in=("felt", "recorded"))
                | (Q(area="diff") & ~Q(about="")),
                name="kept_answer_about_known",
            ),
            models.CheckConstraint(condition=Q(area="diff") | Q(step_code="", summary={}), name="kept_answer_step_of_the_bench"),
        ]

    def __str__(self) -> str:
        return self.title
