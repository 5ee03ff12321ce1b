"""Trials of a ring and pinion and the readings taken in each."""

from __future__ import annotations

from django.db import models
from django.db.models import Q

from amber_core.bench.judge import NOT_READ_AFTER_ASSEMBLY
from amber_core.words import say
from shared.models import Record, one_of
from work.models import Work


class Verdict(models.TextChoices):
    IN = "in", say("in")
    EDGE = "edge", say("edge")
    OUT = "out", say("out")
    UNKNOWN = "unknown", say("unknown")


class PreloadPart(models.TextChoices):
    NOTHING = "nothing", say("no sleeve yet")
    SLEEVE = "sleeve", say("crush sleeve")
    SPACER = "spacer", say("spacer and shims")
    OUTER_SHIMS = "outer_shims", say("shims under the outer bearing")


class TrialBearings(models.TextChoices):
    FINAL = "final", say("final bearings")
    SET_UP = "set_up", say("set-up bearings")


def _readings() -> models.Prefetch[str, models.QuerySet[Reading], str]:
    return models.Prefetch("readings", Reading.objects.select_related("strike_out"))


def _patterns() -> models.Prefetch[str, models.QuerySet[PatternReading], str]:
    return models.Prefetch("patterns", PatternReading.objects.select_related("photo", "replaces").defer("photo__content"))


class TrialQuerySet(models.QuerySet["Trial"]):
    def with_readings(self) -> TrialQuerySet:
        """Trials of a piece of work in order with all that was read, struck out or not."""
        return self.select_related("conditions").prefetch_related(_readings(), _patterns(), "torques", "depths").order_by("number")


class Trial(Record):
    """What stands in the housing: stacks of shims as [[thickness_mm, count], ...] or adjuster positions in notches from the first.

    `expected` is what the estimate of the trials before said of this one; `conditions_asked` is false for trials older than the question.
    `bearing_offset_mm`: how much higher the real bearing stands than the set-up bearing that is in.
    """

    work = models.ForeignKey(Work, on_delete=models.PROTECT, related_name="trials")
    number = models.PositiveSmallIntegerField()
    ring_side_pieces = models.JSONField(null=True)
    far_side_pieces = models.JSONField(null=True)
    ring_side_notches = models.SmallIntegerField(null=True)
    far_side_notches = models.SmallIntegerField(null=True)
    depth_pieces = models.JSONField(null=True)
    spacer_pieces = models.JSONField(null=True)
    preload_part = models.CharField(max_length=20, choices=PreloadPart, default=PreloadPart.NOTHING)
    bearings = models.CharField(max_length=10, choices=TrialBearings, default=TrialBearings.FINAL)
    bearing_offset_mm = models.FloatField(null=True)
    is_final = models.BooleanField(default=False)
    conditions_asked = models.BooleanField(default=True)
    expected_backlash_mm = models.FloatField(null=True)
    expected = models.JSONField(null=True)
    note = models.CharField(max_length=200, blank=True)

    objects = TrialQuerySet.as_manager()

    class Meta:
        ordering = ["number"]
        constraints = [
            models.UniqueConstraint(fields=["work", "number"], name="trial_number_once_per_work"),
            models.CheckConstraint(
                condition=Q(ring_side_pieces__isnull=False, far_side_pieces__isnull=False, ring_side_notches__isnull=True)
                | Q(ring_side_notches__isnull=False, far_side_notches__isnull=False, ring_side_pieces__isnull=True),
                name="trial_has_shims_or_notches",
            ),
            one_of("preload_part", PreloadPart, "trial_preload_part_known"),
            one_of("bearings", TrialBearings, "trial_bearings_known"),
            models.CheckConstraint(condition=Q(is_final=False) | Q(bearings="final"), name="trial_final_has_final_bearings"),
            models.CheckConstraint(
                condition=Q(bearing_offset_mm__isnull=True) | Q(bearings="set_up", bearing_offset_mm__gte=-2, bearing_offset_mm__lte=2),
                name="trial_bearing_offset_sane",
            ),
        ]

    def __str__(self) -> str:
        return f"Trial {self.number}"


class Reading(Record):
    """Backlash at one clock position: the value in mm, and as it was typed."""

    trial = models.ForeignKey(Trial, on_delete=models.PROTECT, related_name="readings")
    angle_deg = models.FloatField()
    value_mm = models.FloatField()
    typed = models.CharField(max_length=40)
    unit = models.CharField(max_length=20)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.CheckConstraint(condition=Q(angle_deg__gte=0, angle_deg__lt=360), name="reading_angle_on_the_circle"),
            models.CheckConstraint(condition=Q(value_mm__gte=0, value_mm__lte=10), name="reading_value_sane"),
        ]

    def __str__(self) -> str:
        return f"{self.value_mm:.3f} mm at {self.angle_deg:.0f}"


class StrikeOut(Record):
    """A reading that no longer counts, and why; the reading itself stays."""

    reading = models.OneToOneField(Reading, on_delete=models.PROTECT, related_name="strike_out")
    reason = models.CharField(max_length=200)

    class Meta:
        constraints = [models.CheckConstraint(condition=~Q(reason=""), name="strike_out_has_a_reason")]

    def __str__(self) -> str:
        return self.reason


class ConditionCheck(Record):
    """Somebody looked: caps torqued, no play, seated, nothing in that spoils a reading. Readings count from then on.

    `points` are the sentences that were confirmed, as they were shown; empty for checks older than that.
    """

    trial = models.OneToOneField(Trial, on_delete=models.PROTECT, related_name="conditions")
    points = models.JSONField(default=list)

    def __str__(self) -> str:
        return f"{self.trial}: conditions met"


class SetState(models.TextChoices):
    NEW = "new", say("New set")
    USED = "used", say("Used set, back to as found")


class DriveFlank(models.TextChoices):
    CONVEX = "convex", say("the outward-curved side")
    CONCAVE = "concave", say("the hollow side")


def between(field: str, low: float, high: float, name: str, *, optional: bool = False) -> models.CheckConstraint:
    """The database refuses what lies outside."""
    inside = Q(**{f"{field}__gte": low, f"{field}__lte": high})
    return models.CheckConstraint(condition=inside | Q(**{f"{field}__isnull": True}) if optional else inside, name=name)


class VehicleSide(models.TextChoices):
    UNKNOWN = "", say("not said")
    LEFT = "left", say("left")
    RIGHT = "right", say("right")


class Basis(Record):
    """What the set-up starts from: new or used set, driving flank, the ring's side, what a used set was found with. The latest counts."""

    work = models.ForeignKey(Work, on_delete=models.PROTECT, related_name="bases")
    set_state = models.CharField(max_length=10, choices=SetState)
    drive_flank = models.CharField(max_length=10, choices=DriveFlank)
    ring_on = models.CharField(max_length=10, choices=VehicleSide, blank=True, default=VehicleSide.UNKNOWN)
    places = models.PositiveSmallIntegerField(null=True)
    found_backlash_mm = models.FloatField(null=True)
    found_drive_u = models.FloatField(null=True)
    found_drive_v = models.FloatField(null=True)
    found_coast_u = models.FloatField(null=True)
    found_coast_v = models.FloatField(null=True)

    class Meta:
        ordering = ["id"]
        constraints = [
            one_of("set_state", SetState, "basis_set_state_known"),
            one_of("drive_flank", DriveFlank, "basis_drive_flank_known"),
            one_of("ring_on", VehicleSide, "basis_ring_on_known"),
            between("found_backlash_mm", 0, 10, "basis_backlash_sane", optional=True),
            between("places", 4, 16, "basis_places_sane", optional=True),
            *(
                between(f"found_{flank}_{axis}", 0, 1, f"basis_{flank}_{axis}_on_the_flank", optional=True)
                for flank in ("drive", "coast")
                for axis in "uv"
            ),
        ]

    def __str__(self) -> str:
        return f"{self.get_set_state_display()}, driven on {self.get_drive_flank_display()}"


class Flank(models.TextChoices):
    DRIVE = "drive", say("drive side")
    COAST = "coast", say("coast side")


class PatternPhoto(Record):
    """A picture of a painted tooth."""

    trial = models.ForeignKey(Trial, on_delete=models.PROTECT, related_name="photos")
    flank = models.CharField(max_length=10, choices=Flank)
    content = models.BinaryField()
    media_type = models.CharField(max_length=20)

    class Meta:
        ordering = ["id"]
        constraints = [
            one_of("flank", Flank, "photo_flank_known"),
            models.CheckConstraint(condition=Q(media_type__in=("image/jpeg", "image/png", "image/webp")), name="photo_is_a_picture"),
        ]

    def __str__(self) -> str:
        return f"{self.trial}: {self.flank}"


class PatternReading(Record):
    """A painted patch as it was read: middle, length, height [-] from toe (u) and root (v), lean [deg].

    All readings of a flank count together, each painted again; `replaces` names one that was drawn wrongly, which no longer counts.
    """

    trial = models.ForeignKey(Trial, on_delete=models.PROTECT, related_name="patterns")
    flank = models.CharField(max_length=10, choices=Flank)
    u = models.FloatField()
    v = models.FloatField()
    length = models.FloatField()
    height = models.FloatField()
    tilt_deg = models.FloatField()
    runs_off = models.JSONField(default=list)
    photo = models.ForeignKey(PatternPhoto, null=True, on_delete=models.PROTECT, related_name="+")
    photo_place = models.JSONField(null=True)
    note = models.CharField(max_length=200, blank=True)
    replaces = models.OneToOneField("self", null=True, on_delete=models.PROTECT, related_name="replaced_by")

    class Meta:
        ordering = ["id"]
        constraints = [
            one_of("flank", Flank, "pattern_flank_known"),
            between("u", 0, 1, "pattern_u_on_the_flank"),
            between("v", 0, 1, "pattern_v_on_the_flank"),
            between("length", 0.02, 1.5, "pattern_length_sane"),
            between("height", 0.02, 1.5, "pattern_height_sane"),
            between("tilt_deg", -90, 90, "pattern_tilt_sane"),
        ]

    def __str__(self) -> str:
        return f"{self.flank}: {self.u:.2f}, {self.v:.2f}"


class TorqueReading(Record):
    """Rotating torque while turning steadily, [N m]; pinion alone, or total with the carrier in. The latest of a kind counts."""

    trial = models.ForeignKey(Trial, on_delete=models.PROTECT, related_name="torques")
    what = models.CharField(max_length=10, choices=[("pinion", "pinion alone"), ("total", "carrier in")])
    value_nm = models.FloatField()
    typed = models.CharField(max_length=40)
    unit = models.CharField(max_length=20)
    radius_mm = models.FloatField(null=True)
    bearings = models.CharField(max_length=10, choices=[("new", "new"), ("used", "used"), ("mixed", "mixed")])
    seal = models.CharField(max_length=10, choices=[("fitted", "fitted"), ("absent", "absent")])
    seal_drag_nm = models.FloatField(null=True)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.CheckConstraint(condition=Q(what__in=("pinion", "total")), name="torque_what_known"),
            models.CheckConstraint(condition=Q(bearings__in=("new", "used", "mixed")), name="torque_bearings_known"),
            models.CheckConstraint(condition=Q(seal__in=("fitted", "absent")), name="torque_seal_known"),
            between("value_nm", 0, 500, "torque_value_sane"),
            between("radius_mm", 1, 2000, "torque_radius_sane", optional=True),
            between("seal_drag_nm", 0, 50, "torque_drag_sane", optional=True),
        ]

    def __str__(self) -> str:
        return f"{self.what}: {self.value_nm:.2f} Nm"


class DepthReading(Record):
    """A measured pinion depth: what was read and what it gave; `error_mm` + too shallow. The latest counts."""

    trial = models.ForeignKey(Trial, on_delete=models.PROTECT, related_name="depths")
    tool = models.CharField(max_length=10, choices=[("arbor", "arbor"), ("bar", "bar"), ("face", "housing face")])
    question = models.JSONField()
    distance_mm = models.FloatField()
    error_mm = models.FloatField()

    class Meta:
        ordering = ["id"]
        constraints = [
            models.CheckConstraint(condition=Q(tool__in=("arbor", "bar", "face")), name="depth_tool_known"),
            between("error_mm", -5, 5, "depth_error_sane"),
        ]

    def __str__(self) -> str:
        return f"{self.error_mm:+.3f} mm"


class SleeveStep(Record):
    """A step of crushing a sleeve: nut turn from first contact [deg] and rotating torque [N m]; or the taking back of a step."""

    work = models.ForeignKey(Work, on_delete=models.PROTECT, related_name="sleeve_steps")
    sleeve = models.PositiveSmallIntegerField()
    nut_turn_deg = models.FloatField()
    rotating_torque_nm = models.FloatField()
    typed = models.CharField(max_length=40)
    unit = models.CharField(max_length=20)
    nut_torque_nm = models.FloatField(null=True)
    takes_back = models.OneToOneField("self", null=True, on_delete=models.PROTECT, related_name="taken_back_by")
    reason = models.CharField(max_length=200, blank=True)

    class Meta:
        ordering = ["id"]
        constraints = [
            between("nut_turn_deg", 0, 1440, "sleeve_turn_sane"),
            between("rotating_torque_nm", 0, 500, "sleeve_torque_sane"),
            between("nut_torque_nm", 0, 2000, "sleeve_nut_torque_sane", optional=True),
            models.CheckConstraint(condition=Q(takes_back__isnull=True) | ~Q(reason=""), name="sleeve_taken_back_says_why"),
        ]

    def __str__(self) -> str:
        return f"sleeve {self.sleeve}: {self.nut_turn_deg:g} deg, {self.rotating_torque_nm:.2f} Nm"


class SpacerTry(Record):
    """A trial stack with the solid spacer at full nut torque: end play or rotating torque, whichever there was."""

    work = models.ForeignKey(Work, on_delete=models.PROTECT, related_name="spacer_tries")
    pieces = models.JSONField()
    end_play_mm = models.FloatField(null=True)
    rotating_torque_nm = models.FloatField(null=True)

    class Meta:
        ordering = ["id"]
        constraints = [
            between("end_play_mm", 0, 5, "spacer_play_sane", optional=True),
            between("rotating_torque_nm", 0, 500, "spacer_torque_sane", optional=True),
            models.CheckConstraint(
                condition=Q(end_play_mm__isnull=False) | Q(rotating_torque_nm__isnull=False), name="spacer_try_read_something"
            ),
        ]

    def __str__(self) -> str:
        return f"spacer stack {self.pieces}"


class InstrumentCheck(Record):
    """The dial before readings: what it shows on the zero, on a gauge block and back at the mark, its step [mm]. The latest counts."""

    work = models.ForeignKey(Work, on_delete=models.PROTECT, related_name="instrument_checks")
    zero_mm = models.FloatField()
    block_mm = models.FloatField()
    block_read_mm = models.FloatField()
    return_mm = models.FloatField()
    instrument = models.CharField(max_length=120, blank=True)
    resolution_mm = models.FloatField(default=0.01)
    good = models.BooleanField()

    class Meta:
        ordering = ["id"]
        constraints = [
            between("block_mm", 0.01, 50, "instrument_block_sane"),
            between("resolution_mm", 0.0001, 0.1, "instrument_resolution_sane"),
        ]

    def __str__(self) -> str:
        return "in order" if self.good else "not in order"


class BenchFinding(models.Model):
    """What the bench last found of a piece of work; worked out again with every write to it."""

    work = models.OneToOneField(Work, on_delete=models.CASCADE, primary_key=True, related_name="bench_finding")
    backlash = models.CharField(max_length=10, choices=Verdict, default=Verdict.UNKNOWN)
    pattern = models.CharField(max_length=10, choices=Verdict, default=Verdict.UNKNOWN)
    missing = models.CharField(max_length=1500, default=NOT_READ_AFTER_ASSEMBLY, blank=True)

    class Meta:
        constraints = [
            one_of("backlash", Verdict, "bench_finding_backlash_known"),
            one_of("pattern", Verdict, "bench_finding_pattern_known"),
        ]

    def __str__(self) -> str:
        return f"{self.work_id}: {self.backlash}, {self.pattern}"
