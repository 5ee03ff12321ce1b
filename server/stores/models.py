"""Families of axles, transfer cases and propshafts, their spec sheets, and the shims in the drawer."""

from __future__ import annotations

from typing import ClassVar, Self

from django.db import models
from django.db.models import F, Q

from accounts.models import of_shop, own_shop
from amber_core.words import say
from shared.models import Record, one_of
from shared.scope import OfShop, OfShopOrShared, within


class SheetPart(models.TextChoices):
    """Which part of a driveline a sheet is for."""

    AXLE = "axle", say("Axle or final drive")
    TRANSFER_CASE = "transfer_case", say("Transfer case")
    PROPSHAFT = "propshaft", say("Propshaft")


class CarrierMethod(models.TextChoices):
    SIDE_SHIMS = "side_shims", say("side shims")
    COVER_SHIMS = "cover_shims", say("shims under the side covers")
    ADJUSTERS = "adjusters", say("threaded adjusters")


class ShimPlace(models.TextChoices):
    UNDER_HEAD = "under_head", say("under the pinion head")
    BEHIND_CUP = "behind_cup", say("behind the inner bearing's cup")
    CARTRIDGE = "under_cartridge_flange", say("under the flange of the pinion cartridge")


class PreloadMethod(models.TextChoices):
    CRUSH_SLEEVE = "crush_sleeve", say("crush sleeve")
    SPACER = "spacer", say("shimmed solid spacer")
    OUTER_SHIMS = "outer_shims", say("shims under the outer bearing")


class ToothForm(models.TextChoices):
    TAPERED = "tapered", say("tapered depth")
    UNIFORM = "uniform", say("uniform depth")


class ShaftsHeld(models.TextChoices):
    """How the axle shafts are held: what decides whether they come out at the wheel, at the differential or at the housing."""

    UNKNOWN = "", say("not known")
    CLIP = "clip", say("clip in the differential")
    RETAINER = "retainer", say("bolted retainer at the tube end")
    FULL_FLOAT = "full_float", say("full-float hub")
    HALF_SHAFTS = "half_shafts", say("half shafts with a circlip")


class WindowSeal(models.TextChoices):
    """Whether the sheet's torque windows hold the seal's drag."""

    INCLUDED = "included", say("with the seal's drag")
    EXCLUDED = "excluded", say("without the seal's drag")


class Quantity(models.TextChoices):
    """What a spec sheet can limit; the unit belongs to the quantity."""

    BACKLASH = "backlash", say("Backlash (mm, plunger square to the tooth at the heel)")
    VARIATION = "backlash_variation", say("Backlash variation round the ring gear (mm)")
    PINION_TORQUE = "pinion_torque", say("Pinion rotating torque, new bearings (Nm)")
    PINION_TORQUE_USED = "pinion_torque_used", say("Pinion rotating torque, used bearings (Nm)")
    TOTAL_TORQUE = "total_torque", say("Total rotating torque at the pinion, carrier in (Nm)")
    NUT_TORQUE = "nut_torque", say("Pinion nut torque to crush the sleeve, at least (Nm)")
    DEPTH = "pinion_depth", say("Pinion depth, head to ring gear axis, nominal (mm)")
    CASE_SPREAD = "case_spread", say("Case spread (mm)")
    RING_BOLTS = "ring_bolts", say("Ring gear bolts (count)")
    CAP_BOLTS = "cap_bolts", say("Bearing cap bolts (count)")
    OIL = "oil", say("Oil (litres)")
    FLANGE_RUNOUT = "flange_runout", say("Carrier flange runout (mm)")
    SIDE_GEAR_PLAY = "side_gear_play", say("Side-gear play (mm)")
    CLUTCH_STACK = "clutch_stack", say("Clutch stack, each side (mm)")
    BREAKAWAY = "breakaway", say("Breakaway torque between the wheels (Nm)")
    LOCKER_GAP = "locker_gap", say("Locker gap between the halves (mm)")
    CROSS_PIN = "cross_pin", say("Cross pin diameter (mm)")
    WHEEL_END_PLAY = "wheel_end_play", say("Wheel end play (mm)")
    AXLE_FLANGE_RUNOUT = "axle_flange_runout", say("Wheel flange runout (mm)")
    SHAFT_ENGAGEMENT = "shaft_engagement", say("Axle shaft engagement in the side gear (mm)")
    OUTPUT_END_PLAY = "output_end_play", say("Transfer-case output end play (mm)")
    TUBE_RUNOUT = "tube_runout", say("Propshaft tube runout (mm)")
    COVER_BOLTS = "cover_bolts", say("Cover bolts (count)")
    PROPSHAFT_BOLTS = "propshaft_bolts", say("Propshaft bolts (count)")
    PIN_BOLT = "pin_bolt", say("Cross-pin bolts (count)")
    RETAINER_NUTS = "retainer_nuts", say("Retainer nuts, each side (count)")
    DRIVE_FLANGE_NUTS = "drive_flange_nuts", say("Drive-flange nuts, each side (count)")
    HUB_NUTS = "hub_nuts", say("Hub nuts (count)")
    UNIT_NUTS = "unit_nuts", say("Third-member nuts (count)")
    CLUTCH_WEAR = "clutch_wear", say("Clutch stack without shims, wear limit (mm)")
    OUTPUT_TORQUE = "output_torque", say("Transfer-case output rotating torque (Nm)")
    STUB_HEIGHT = "stub_height", say("Tube end, height of the register above the flange face (mm)")
    PIN_CLEARANCE = "pin_clearance", say("Cross pin clearance in its bores (mm)")
    ROLLERS = "rollers", say("Loose rollers (count)")
    SEAL_SURFACE = "seal_surface", say("Seal surface of the flange, diameter when new (mm)")
    AIR_DROP = "air_drop", say("Air line, drop in the leak test (kPa)")


class FastenerPlace(models.TextChoices):
    """Where bolts and nuts are tightened; steps of a run sheet name them by these."""

    RING_BOLTS = "ring_bolts", say("Ring gear bolts")
    CAP_BOLTS = "cap_bolts", say("Bearing cap bolts")
    COVER_BOLTS = "cover_bolts", say("Cover bolts")
    UNIT_NUTS = "unit_nuts", say("Third-member nuts")
    PINION_NUT = "pinion_nut", say("Pinion nut")
    PIN_BOLT = "pin_bolt", say("Cross-pin bolt")
    RETAINER_NUTS = "retainer_nuts", say("Retainer nuts, each side")
    DRIVE_FLANGE_NUTS = "drive_flange_nuts", say("Drive-flange nuts, each side")
    HUB_NUTS = "hub_nuts", say("Hub nut, each side")
    OUTPUT_NUT = "output_nut", say("Output flange nut")
    PROPSHAFT_BOLTS = "propshaft_bolts", say("Propshaft bolts")
    CENTRE_BEARING_BOLTS = "centre_bearing_bolts", say("Centre bearing bolts")
    FILL_PLUG = "fill_plug", say("Fill plug")
    DRAIN_PLUG = "drain_plug", say("Drain plug")
    WHEEL_NUTS = "wheel_nuts", say("Wheel nuts, each wheel")


COUNTED = frozenset(FastenerPlace.values) & frozenset(Quantity.values)
"""Quantities that only said how many bolts there are, before a sheet could say how they are tightened; older revisions hold them."""


EACH_SIDE = frozenset({FastenerPlace.RETAINER_NUTS, FastenerPlace.DRIVE_FLANGE_NUTS, FastenerPlace.HUB_NUTS})
"""Places that an axle has twice, and a step of a run sheet tightens both."""


class BoltLayout(models.TextChoices):
    CIRCLE = "circle", say("round a circle")
    ROW = "row", say("in a row")


UNITS = {
    Quantity.BACKLASH: "mm",
    Quantity.VARIATION: "mm",
    Quantity.PINION_TORQUE: "Nm",
    Quantity.PINION_TORQUE_USED: "Nm",
    Quantity.TOTAL_TORQUE: "Nm",
    Quantity.NUT_TORQUE: "Nm",
    Quantity.DEPTH: "mm",
    Quantity.CASE_SPREAD: "mm",
    Quantity.RING_BOLTS: "",
    Quantity.CAP_BOLTS: "",
    Quantity.OIL: "l",
    Quantity.FLANGE_RUNOUT: "mm",
    Quantity.SIDE_GEAR_PLAY: "mm",
    Quantity.CLUTCH_STACK: "mm",
    Quantity.BREAKAWAY: "Nm",
    Quantity.LOCKER_GAP: "mm",
    Quantity.CROSS_PIN: "mm",
    Quantity.WHEEL_END_PLAY: "mm",
    Quantity.AXLE_FLANGE_RUNOUT: "mm",
    Quantity.SHAFT_ENGAGEMENT: "mm",
    Quantity.OUTPUT_END_PLAY: "mm",
    Quantity.TUBE_RUNOUT: "mm",
    Quantity.COVER_BOLTS: "",
    Quantity.PROPSHAFT_BOLTS: "",
    Quantity.PIN_BOLT: "",
    Quantity.RETAINER_NUTS: "",
    Quantity.DRIVE_FLANGE_NUTS: "",
    Quantity.HUB_NUTS: "",
    Quantity.UNIT_NUTS: "",
    Quantity.CLUTCH_WEAR: "mm",
    Quantity.OUTPUT_TORQUE: "Nm",
    Quantity.STUB_HEIGHT: "mm",
    Quantity.PIN_CLEARANCE: "mm",
    Quantity.ROLLERS: "",
    Quantity.SEAL_SURFACE: "mm",
    Quantity.AIR_DROP: "kPa",
}


class AxleFamilyQuerySet(models.QuerySet["AxleFamily"]):
    def owned(self) -> AxleFamilyQuerySet:
        """Those that this workshop may change."""
        return within(self)

    def coded(self, code: str) -> AxleFamily | None:
        """The one of that code: this workshop's own before one that another shares."""
        return self.filter(code=code).order_by(models.Case(models.When(shop=own_shop(), then=0), default=1), "shop").first()

    def with_sheets(self) -> AxleFamilyQuerySet:
        """Everything a spec sheet shows, in a fixed number of queries."""
        revisions = models.Prefetch("revisions", SheetRevision.objects.defer("content"))
        return (
            self.select_related("shop")
            .prefetch_related("limits", "ratios", "fasteners", "fluids", "shims", revisions)
            .order_by("part", "name")
        )


class AxleFamily(models.Model):
    """How an axle is built; lengths in mm. `bearing_offset_mm`: real bearings' height less that of the shop's set-up bearings.

    A sheet for another `part` has no gears: what it says of them counts for nothing.
    """

    shop = of_shop()
    shared = models.BooleanField(default=False)
    """Every workshop of the installation works by it; its own one changes it."""
    part = models.CharField(max_length=20, choices=SheetPart, default=SheetPart.AXLE)
    code = models.SlugField(max_length=60)
    name = models.CharField(max_length=120)
    maker = models.CharField(max_length=120)
    build = models.CharField(max_length=300)
    carrier_method = models.CharField(max_length=20, choices=CarrierMethod, default=CarrierMethod.SIDE_SHIMS)
    shim_place = models.CharField(max_length=30, choices=ShimPlace, default=ShimPlace.UNDER_HEAD)
    preload_method = models.CharField(max_length=20, choices=PreloadMethod, default=PreloadMethod.CRUSH_SLEEVE)
    wheel_end = models.CharField(max_length=120, blank=True)
    shafts = models.CharField(max_length=20, choices=ShaftsHeld, blank=True, default="")
    has_spreader = models.BooleanField(default=False)
    has_speed_ring = models.BooleanField(default=False)
    ring_outer_diameter_mm = models.FloatField(default=200.0)
    offset_mm = models.FloatField(default=0.0)
    tooth_form = models.CharField(max_length=10, choices=ToothForm, default=ToothForm.TAPERED)
    notch_mm = models.FloatField(null=True, blank=True)
    torque_window_seal = models.CharField(max_length=10, choices=WindowSeal, default=WindowSeal.EXCLUDED)
    bearing_offset_mm = models.FloatField(null=True, blank=True)
    backlash_places = models.PositiveSmallIntegerField(default=8)
    is_sample = models.BooleanField(default=True)

    objects = OfShopOrShared.from_queryset(AxleFamilyQuerySet)()

    class Meta:
        verbose_name_plural = "axle families"
        constraints = [
            models.UniqueConstraint(fields=["shop", "code"], name="family_code_once_a_shop"),
            one_of("part", SheetPart, "family_part_known"),
            one_of("carrier_method", CarrierMethod, "family_carrier_known"),
            one_of("shim_place", ShimPlace, "family_shim_place_known"),
            one_of("preload_method", PreloadMethod, "family_preload_known"),
            one_of("tooth_form", ToothForm, "family_tooth_form_known"),
            one_of("shafts", ShaftsHeld, "family_shafts_known"),
            one_of("torque_window_seal", WindowSeal, "family_window_seal_known"),
            models.CheckConstraint(
                condition=Q(bearing_offset_mm__isnull=True) | Q(bearing_offset_mm__gte=-2, bearing_offset_mm__lte=2),
                name="family_bearing_offset_sane",
            ),
            models.CheckConstraint(condition=Q(ring_outer_diameter_mm__gte=50, ring_outer_diameter_mm__lte=1000), name="family_ring_sane"),
            models.CheckConstraint(condition=Q(offset_mm__gte=0), name="family_offset_not_negative"),
            models.CheckConstraint(condition=Q(backlash_places__gte=4, backlash_places__lte=16), name="family_backlash_places_sane"),
            models.CheckConstraint(
                condition=~Q(carrier_method="adjusters") | Q(notch_mm__isnull=False, notch_mm__gt=0),
                name="family_adjusters_have_a_notch",
            ),
        ]

    def __str__(self) -> str:
        return self.name


class RatioOption(models.Model):
    """A pair of tooth counts the family is made with."""

    family = models.ForeignKey(AxleFamily, on_delete=models.CASCADE, related_name="ratios")
    pinion_teeth = models.PositiveSmallIntegerField()
    ring_teeth = models.PositiveSmallIntegerField()
    needs_carrier = models.BooleanField(default=False)
    needs_thick_ring = models.BooleanField(default=False)

    class Meta:
        ordering = ["family", "pinion_teeth", "ring_teeth"]
        constraints = [
            models.UniqueConstraint(fields=["family", "pinion_teeth", "ring_teeth"], name="ratio_once_per_family"),
            models.CheckConstraint(condition=Q(pinion_teeth__gte=3, ring_teeth__gt=F("pinion_teeth")), name="ratio_teeth_sane"),
        ]

    def __str__(self) -> str:
        return f"{self.pinion_teeth}/{self.ring_teeth}"


class Gearbox(models.Model):
    """A gearbox: its gears from first to top, [-]. Every workshop of the installation sees it; its own one changes it."""

    shop = of_shop()
    code = models.SlugField(unique=True, max_length=60)
    name = models.CharField(max_length=120)
    maker = models.CharField(max_length=120)
    gears = models.JSONField()
    is_sample = models.BooleanField(default=True)

    class Meta:
        verbose_name_plural = "gearboxes"
        ordering = ["name"]
        constraints = [
            models.CheckConstraint(condition=~Q(name="") & ~Q(code=""), name="gearbox_has_a_name"),
            models.CheckConstraint(condition=Q(gears__0__isnull=False), name="gearbox_has_a_gear"),
        ]

    def __str__(self) -> str:
        return self.name


class TransferCase(models.Model):
    """A transfer case: its high and low range, [-]; no low range is None. Every workshop sees it; its own one changes it."""

    shop = of_shop()
    code = models.SlugField(unique=True, max_length=60)
    name = models.CharField(max_length=120)
    maker = models.CharField(max_length=120)
    high = models.FloatField(default=1.0)
    low = models.FloatField(null=True, blank=True)
    is_sample = models.BooleanField(default=True)

    class Meta:
        ordering = ["name"]
        constraints = [
            models.CheckConstraint(condition=~Q(name="") & ~Q(code=""), name="transfer_has_a_name"),
            models.CheckConstraint(condition=Q(high__gte=0.5, high__lte=5), name="transfer_high_sane"),
            models.CheckConstraint(condition=Q(low__isnull=True) | Q(low__gte=F("high"), low__lte=10), name="transfer_low_sane"),
        ]

    def __str__(self) -> str:
        return self.name


class SpecLimit(models.Model):
    """One line of a spec sheet, with where it comes from."""

    family = models.ForeignKey(AxleFamily, on_delete=models.CASCADE, related_name="limits")
    quantity = models.CharField(max_length=30, choices=Quantity)
    least = models.FloatField(null=True, blank=True)
    greatest = models.FloatField(null=True, blank=True)
    source_note = models.CharField(max_length=200)

    class Meta:
        ordering = ["family", "quantity"]
        constraints = [
            one_of("quantity", Quantity, "limit_quantity_known"),
            models.CheckConstraint(condition=~Q(quantity__in=sorted(COUNTED)), name="limit_counts_no_bolts"),
            models.UniqueConstraint(fields=["family", "quantity"], name="limit_once_per_family"),
            models.CheckConstraint(condition=Q(least__isnull=False) | Q(greatest__isnull=False), name="limit_says_something"),
            models.CheckConstraint(
                condition=Q(least__isnull=True) | Q(greatest__isnull=True) | Q(least__lte=F("greatest")), name="limit_in_order"
            ),
            models.CheckConstraint(condition=~Q(source_note=""), name="limit_has_a_source"),
        ]

    def __str__(self) -> str:
        return f"{self.family}: {self.get_quantity_display()}"


class SpecFastener(models.Model):
    """Bolts or nuts of one place, as a sheet wants them tightened: torque [N m], angle after it [deg]."""

    family = models.ForeignKey(AxleFamily, on_delete=models.CASCADE, related_name="fasteners")
    place = models.CharField(max_length=30, choices=FastenerPlace)
    count = models.PositiveSmallIntegerField()
    layout = models.CharField(max_length=10, choices=BoltLayout, default=BoltLayout.CIRCLE)
    torque_nm = models.FloatField(null=True, blank=True)
    angle_deg = models.FloatField(null=True, blank=True)
    thread = models.CharField(max_length=40, blank=True)
    oiled = models.BooleanField(default=False)
    one_time_use = models.BooleanField(default=False)
    left_hand = models.BooleanField(default=False)
    locked_by = models.CharField(max_length=80, blank=True)
    source_note = models.CharField(max_length=200)

    class Meta:
        ordering = ["family", "place"]
        constraints = [
            one_of("place", FastenerPlace, "fastener_place_known"),
            one_of("layout", BoltLayout, "fastener_layout_known"),
            models.UniqueConstraint(fields=["family", "place"], name="fastener_once_per_family"),
            models.CheckConstraint(condition=Q(count__gte=1, count__lte=200), name="fastener_count_sane"),
            models.CheckConstraint(
                condition=Q(torque_nm__isnull=True) | Q(torque_nm__gt=0, torque_nm__lte=10_000), name="fastener_torque_sane"
            ),
            models.CheckConstraint(
                condition=Q(angle_deg__isnull=True) | Q(angle_deg__gt=0, angle_deg__lte=720), name="fastener_angle_sane"
            ),
            models.CheckConstraint(condition=~Q(source_note=""), name="fastener_has_a_source"),
        ]

    def __str__(self) -> str:
        return f"{self.family}: {self.get_place_display()}"


class SpecFluid(models.Model):
    """One kind of oil that a sheet allows: the whole fill [l], its level below the plug [mm], and modifier as part of the fill [ml]."""

    family = models.ForeignKey(AxleFamily, on_delete=models.CASCADE, related_name="fluids")
    oil = models.CharField(max_length=80)
    litres = models.FloatField()
    level_below_plug_mm = models.FloatField(default=0.0)
    modifier_ml = models.FloatField(null=True, blank=True)
    modifier = models.CharField(max_length=80, blank=True)
    source_note = models.CharField(max_length=200)

    class Meta:
        ordering = ["family", "oil"]
        constraints = [
            models.UniqueConstraint(fields=["family", "oil"], name="fluid_once_per_family"),
            models.CheckConstraint(condition=~Q(oil=""), name="fluid_has_a_name"),
            models.CheckConstraint(condition=Q(litres__gt=0, litres__lte=200), name="fluid_fill_sane"),
            models.CheckConstraint(condition=Q(level_below_plug_mm__gte=0, level_below_plug_mm__lte=500), name="fluid_level_sane"),
            models.CheckConstraint(
                condition=Q(modifier_ml__isnull=True) | Q(modifier_ml__gt=0, modifier_ml__lte=F("litres") * 1000.0),
                name="fluid_modifier_within_the_fill",
            ),
            models.CheckConstraint(condition=~Q(source_note=""), name="fluid_has_a_source"),
        ]

    def __str__(self) -> str:
        return f"{self.family}: {self.oil}"


class DrawerPlace(models.TextChoices):
    SIDE = "side", say("Side shims")
    DEPTH = "depth", say("Depth shims")
    SPACER = "spacer", say("Spacer shims")
    CLUTCH = "clutch", say("Clutch shims")
    OUTPUT = "output", say("Output shims")
    WASHER = "washer", say("Thrust washers")


class ShimRow(models.Model):
    """So many shims of one thickness in a workshop's drawer."""

    shop = of_shop()
    family = models.ForeignKey(AxleFamily, on_delete=models.CASCADE, related_name="shims")
    place = models.CharField(max_length=10, choices=DrawerPlace)
    thickness_mm = models.DecimalField(max_digits=7, decimal_places=4)
    count = models.PositiveIntegerField()
    version = models.PositiveIntegerField(default=1)

    objects: ClassVar[OfShop[Self]] = OfShop()

    class Meta:
        ordering = ["family", "place", "thickness_mm"]
        constraints = [
            one_of("place", DrawerPlace, "shim_place_known"),
            models.UniqueConstraint(fields=["shop", "family", "place", "thickness_mm"], name="shim_row_once"),
            models.CheckConstraint(condition=Q(thickness_mm__gte=0.001, thickness_mm__lte=50), name="shim_thickness_sane"),
        ]

    def __str__(self) -> str:
        return f"{self.thickness_mm} mm x {self.count}"


class Why(models.TextChoices):
    COUNTED = "counted", say("Counted")
    TAKEN = "taken", say("Taken for a trial")
    RETURNED = "returned", say("Returned from a trial")


class ShimMove(Record):
    """Why a drawer holds what it holds: counted by hand, taken into a housing, or given back. `change` is what came or went."""

    row = models.ForeignKey(ShimRow, on_delete=models.PROTECT, related_name="moves")
    why = models.CharField(max_length=10, choices=Why)
    change = models.IntegerField()
    count = models.PositiveIntegerField()

    class Meta:
        ordering = ["id"]
        constraints = [one_of("why", Why, "shim_move_why_known")]

    def __str__(self) -> str:
        return f"{self.row}: {self.change:+d}, {self.get_why_display()}"


class SheetRevision(Record):
    """A family's facts, limits and ratios as they stood; never changed, only followed by a newer one.

    `content` is the sheet as plain JSON (stores.sheets.Sheet), `content_hash` its SHA-256. One `from_file` came with an imported job: it
    judges that job, and the Stores go on with their own.
    """

    family = models.ForeignKey(AxleFamily, on_delete=models.PROTECT, related_name="revisions")
    number = models.PositiveIntegerField()
    content = models.JSONField()
    content_hash = models.CharField(max_length=64)
    reason = models.CharField(max_length=200, blank=True)
    from_file = models.BooleanField(default=False)

    class Meta:
        ordering = ["family", "number"]
        constraints = [models.UniqueConstraint(fields=["family", "number"], name="sheet_revision_number_once")]

    def __str__(self) -> str:
        return f"{self.family}, revision {self.number}"
