"""The parts of a piece of work: what came off, what was seen and decided, what has to be got, what went back. Written once."""

from __future__ import annotations

import uuid

from django.conf import settings
from django.db import models
from django.db.models import F, Q
from django.utils import timezone

from amber_core.parts.findings import DECISIONS
from amber_core.words import say
from shared.models import Record, one_of
from work.models import Work


class WallBuild(Record):
    """How the assembly is built, and what is to come off beside what the kind of work takes off. The latest counts."""

    work = models.ForeignKey(Work, on_delete=models.PROTECT, related_name="wall_builds")
    facts = models.JSONField()
    asked = models.JSONField(default=list)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return f"{self.work_id}: {self.facts.get('unit')}"


class Act(models.TextChoices):
    """What happened to a part."""

    OFF = "off", say("off")
    LOOK = "look", say("inspected")
    PIECES = "pieces", say("pieces")
    BACK = "back", say("back on")
    STAYS_OUT = "stays_out", say("stays out")
    UNDO = "undo", say("undone")


class PartRecord(Record):
    """One thing that happened to one part, known by its key: the graph's (amber_core.parts), or ``own_…`` for one that was typed.

    Parameters of an act lie in its own fields: of `off` side to bag, count and stack; of `look` what was found and decided; of `pieces` how
    many are missing; of `back` whether a new one went on. `undo` takes another record of the same wall back, or a picture.
    """

    work = models.ForeignKey(Work, on_delete=models.PROTECT, related_name="part_records")
    key = models.CharField(max_length=60)
    act = models.CharField(max_length=10, choices=Act)
    name = models.CharField(max_length=80, blank=True)
    side = models.CharField(max_length=10, blank=True)
    facing = models.CharField(max_length=80, blank=True)
    mark = models.CharField(max_length=40, blank=True)
    bag = models.CharField(max_length=20, blank=True)
    counted = models.PositiveIntegerField(null=True, blank=True)
    stack = models.JSONField(default=list, blank=True)
    findings = models.JSONField(default=list, blank=True)
    decision = models.CharField(max_length=10, blank=True)
    measured = models.CharField(max_length=200, blank=True)
    photo = models.UUIDField(null=True, blank=True)
    drawn = models.JSONField(default=list, blank=True)
    ways = models.JSONField(null=True, blank=True)
    way = models.CharField(max_length=80, blank=True)
    missing = models.PositiveIntegerField(null=True, blank=True)
    given_up = models.BooleanField(default=False)
    is_new = models.BooleanField(default=False)
    note = models.CharField(max_length=400, blank=True)
    undoes = models.OneToOneField("self", null=True, blank=True, on_delete=models.PROTECT, related_name="undone_by")

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["work", "id"], name="part_record_by_work")]
        constraints = [
            one_of("act", Act, "part_act_known"),
            models.CheckConstraint(condition=~Q(key=""), name="part_record_has_a_key"),
            models.CheckConstraint(condition=Q(decision__in=("", *DECISIONS)), name="part_decision_known"),
            models.CheckConstraint(
                condition=Q(act="undo", undoes__isnull=False, photo__isnull=True)
                | Q(act="undo", undoes__isnull=True, photo__isnull=False)
                | ~Q(act="undo") & Q(undoes__isnull=True),
                name="part_undo",
            ),
            models.CheckConstraint(
                condition=Q(act="pieces", missing__isnull=False) | ~Q(act="pieces") & Q(missing__isnull=True), name="part_pieces_counted"
            ),
            models.CheckConstraint(condition=Q(given_up=False) & ~Q(act="stays_out") | ~Q(note=""), name="part_given_up_has_a_reason"),
            models.CheckConstraint(condition=~Q(key__startswith="own_") | ~Q(act="off") | ~Q(name=""), name="part_own_has_a_name"),
        ]

    def __str__(self) -> str:
        return f"{self.key}: {self.act}"


class PartPhoto(Record):
    """A picture of a part, as it is kept, and small."""

    work = models.ForeignKey(Work, on_delete=models.PROTECT, related_name="part_photos")
    key = models.CharField(max_length=60)
    content = models.BinaryField()
    small = models.BinaryField()

    class Meta:
        ordering = ["id"]
        constraints = [models.CheckConstraint(condition=~Q(key=""), name="part_photo_has_a_key")]

    def __str__(self) -> str:
        return f"{self.key}: photo"


class NeedState(models.TextChoices):
    """How far a part to get is."""

    WANTED = "wanted", say("to get")
    ASKED = "asked", say("asked for")
    ORDERED = "ordered", say("ordered")
    ARRIVED = "arrived", say("arrived")
    FITTED = "fitted", say("fitted")
    RETURNED = "returned", say("returned for credit")
    DROPPED = "dropped", say("not needed")


ON_ITS_WAY = (NeedState.ASKED, NeedState.ORDERED)
"""What the job waits for."""


class PartNeed(Record):
    """A line of the parts list; the latest row of a line counts. Money in the smallest unit."""

    work = models.ForeignKey(Work, on_delete=models.PROTECT, related_name="part_needs")
    line = models.UUIDField()
    key = models.CharField(max_length=60, blank=True)
    name = models.CharField(max_length=120)
    count = models.PositiveIntegerField(default=1)
    price = models.BigIntegerField(null=True, blank=True)
    supplier = models.CharField(max_length=80, blank=True)
    state = models.CharField(max_length=10, choices=NeedState, default=NeedState.WANTED)
    due_on = models.DateField(null=True, blank=True)
    note = models.CharField(max_length=200, blank=True)

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["work", "id"], name="part_need_by_work")]
        constraints = [
            one_of("state", NeedState, "part_need_state_known"),
            models.CheckConstraint(condition=~Q(name=""), name="part_need_has_a_name"),
            models.CheckConstraint(condition=Q(count__gte=1, count__lte=10_000), name="part_need_count_sane"),
            models.CheckConstraint(condition=Q(price__isnull=True) | Q(price__gte=0, price__lte=10**12), name="part_need_price_sane"),
        ]

    def __str__(self) -> str:
        return f"{self.count} x {self.name}"


class PhoneQueue(models.Model):
    """How many writes a device said it still holds, the last time it was heard: so that a lost phone's parts are missed."""

    work = models.ForeignKey(Work, on_delete=models.PROTECT, related_name="phone_queues")
    device = models.CharField(max_length=120)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.PROTECT, related_name="+")
    person_name = models.CharField(max_length=120)
    waiting = models.PositiveIntegerField()
    at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["work", "device"], name="phone_queue_once_per_device")]

    def __str__(self) -> str:
        return f"{self.device}: {self.waiting}"


class QuoteLink(Record):
    """A quote as a customer sees it without a login, until it expires or is called back.

    Only the hash of its token is stored. One that came with a job's file has a token that nobody was told: it opens nothing here.
    """

    work = models.ForeignKey(Work, on_delete=models.PROTECT, related_name="quote_links")
    token_hash = models.CharField(max_length=64, unique=True)
    expires_at = models.DateTimeField()
    document = models.JSONField()

    class Meta:
        ordering = ["id"]
        constraints = [models.CheckConstraint(condition=Q(expires_at__gt=F("at")), name="quote_link_expires_later")]

    @property
    def by_file(self) -> bool:
        """Whether a job's file brought it, whose names are no logins here."""
        return self.by_id is None

    def __str__(self) -> str:
        return f"{self.work_id} until {self.expires_at:%Y-%m-%d}"


class QuoteLinkEnd(Record):
    """A link was called back."""

    link = models.OneToOneField(QuoteLink, on_delete=models.PROTECT, related_name="end")

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return f"{self.link_id} withdrawn"


class QuoteAnswer(models.Model):
    """What the customer said by a link: yes or no to each line, with the name typed. Once."""

    client_id = models.UUIDField(unique=True, default=uuid.uuid4)
    link = models.OneToOneField(QuoteLink, on_delete=models.PROTECT, related_name="answer")
    answers = models.JSONField()
    name = models.CharField(max_length=120)
    note = models.CharField(max_length=1000, blank=True)
    at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["id"]
        constraints = [models.CheckConstraint(condition=~Q(name=""), name="quote_answer_has_a_name")]

    def __str__(self) -> str:
        return f"{self.link_id}: {self.name}"
