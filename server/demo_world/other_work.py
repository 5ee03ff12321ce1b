"""Jobs of the other kinds of work, each caught at another step of its run sheet."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from accounts.models import User
from demo_world.bench_tools import BREAKAWAY_AS_FOUND, OUTPUT, PIN, ROLLERS
from vehicles.models import Vehicle

if TYPE_CHECKING:
    from demo_world.world import JobBuilder

New = Callable[..., "JobBuilder"]


def load(new: New, isla: User, tam: User, callum: User) -> None:
    """Book them and work them as far as they are."""
    _seals_and_bearings(new, isla, tam, callum)
    _differentials(new, isla, tam, callum)
    _shafts(new, isla, tam, callum)
    _whole_vehicles(new, isla, tam, callum)


def _seals_and_bearings(new: New, isla: User, tam: User, callum: User) -> None:
    loader = Vehicle.objects.get(name__startswith="Road-rail loader")
    (
        new(
            1.1,
            callum,
            "halden-hf25",
            customer="Peat Railway",
            vehicle_id=loader.pk,
            kind="pinion_seal",
            complaint="Rear pinion seal weeps on the long grade",
            use="rail",
        )
        .hands_to(tam)
        .passes_to("nut")
        .done()
    )
    (
        new(
            0.3,
            callum,
            "",
            customer="Coal and Grain Store",
            vehicle="Grain lorry, Halden R1",
            kind="wheel_bearings",
            complaint="Play at the near-side rear wheel, oil on the linings",
            use="towing",
        )
        .hands_to(isla)
        .passes_to("shafts")
        .done()
    )
    (
        new(
            2,
            callum,
            "halden-tg",
            customer="Skerrow Motor Museum",
            vehicle="Vintage lorry, Halden Pilot",
            layout="four_wheel_drive",
            kind="flange_surface",
            place="transfer_case",
            complaint="Transfer-case yoke leaks again after two new seals",
        )
        .hands_to(tam)
        .passes_to()
        .done()
    )
    (
        new(
            0.4,
            callum,
            "",
            customer="Harbour Watch",
            vehicle="Quay tractor, Halden Wharf",
            layout="tractor",
            kind="oil_service",
            complaint="Yearly oil service, rear axle",
            use="shore",
        ).done()
    )


def _differentials(new: New, isla: User, tam: User, callum: User) -> None:
    (
        new(
            0.012,
            callum,
            "corrie-ls19",
            customer="Skerrow Forestry",
            vehicle="Forest ranger's pick-up, Corrie Carrier",
            kind="clutch_packs",
            complaint="One wheel spins at the gate; chatters in tight turns",
            use="off_road",
        )
        .hands_to(isla)
        .quickly()
        .passes_to("soak")
        .starts("soak", minutes=30)
        .passes("stands_and_chocks", "key_away")
        .measures("breakaway", "Before anything came apart", BREAKAWAY_AS_FOUND, step="as_found_breakaway")
        .done()
    )
    (
        new(
            1.2,
            callum,
            "corrie-ls19",
            customer="Skerrow School",
            vehicle="Second school minibus, Corrie Carrier",
            kind="locker",
            complaint="Chatter from behind; spider gears worn",
        )
        .hands_to(tam)
        .passes_to("locker_gap")
        .measures("clearance", "Cross pin, worn at the middle", PIN, gauge="micrometer", step="pin_measured")
        .done()
    )
    (
        new(
            3,
            callum,
            "ostrel-fd14",
            customer="Links Golf Club",
            vehicle="Links buggy, Ostrel Skua",
            layout="quad",
            kind="final_drive",
            complaint="Water in the rear final drive, breather blocked",
            use="off_road",
        )
        .hands_to(tam)
        .passes_to("inspected")
        .done()
    )
    (
        new(
            0.1,
            callum,
            "ostrel-ir20",
            customer="Lighthouse Board",
            vehicle="Lighthouse estate car, Ostrel Firth",
            kind="differential",
            complaint="Limited slip wanted for the winter",
        ).done()
    )
    (
        new(
            5,
            callum,
            "corrie-ls19",
            customer="Skerrow Dairy",
            vehicle="Milk float, Corrie Carrier",
            kind="strip_and_report",
            complaint="Whine on drive, worse when warm",
        )
        .hands_to(isla)
        .passes_to("customer_answers")
        .strips(callum)
        .parks("customer_answers", "customer", "Carrier on the bench, shims in tray 2, ring gear in oiled paper. May be rolled.")
        .done()
    )
    tug = Vehicle.objects.get(name__startswith="Ferry-ramp tug")
    (
        new(
            0.5,
            callum,
            "halden-hf25",
            customer="Ferry Company",
            vehicle_id=tug.pk,
            kind="third_member",
            complaint="Hums again, a year after the regear: was it like this before?",
            use="shore",
        ).done()
    )
    (
        new(
            0.6,
            callum,
            "corrie-ls19",
            customer="Harbour Watch",
            vehicle="Launch trailer tug, Corrie Carrier",
            kind="retention",
            complaint="Clip-held axle shafts to become bolted; approval asked for",
            use="shore",
        ).done()
    )


def _shafts(new: New, isla: User, tam: User, callum: User) -> None:
    (
        new(
            0.7,
            callum,
            "brannoch-p76",
            customer="Head Keeper",
            vehicle="Keeper's hack, Brannoch Fell",
            layout="four_wheel_drive",
            kind="joint",
            place="rear_shaft",
            complaint="Knock since its springs were changed",
            use="off_road",
        )
        .hands_to(isla)
        .passes_to("joint_felt")
        .done()
    )
    (
        new(
            6,
            callum,
            "halden-p102",
            customer="Island Fire Brigade",
            vehicle="Hose carrier, Halden R1",
            kind="shaft_made",
            place="rear_shaft",
            complaint="Lighter propshaft wanted; the old one is dented",
        )
        .hands_to(tam)
        .passes_to("shaft_away")
        .parks("shaft_away", "parts", "Old shaft on the rack, flange bolts in tray 4. May not be rolled: the shaft is out.")
        .done()
    )
    (
        new(
            0.9,
            callum,
            "",
            customer="Veterinary Practice",
            vehicle="Vet's estate car, Ostrel Firth",
            layout="all_wheel_drive",
            kind="half_shafts",
            place="front_axle",
            complaint="Clicks on full lock; grease on the inside of the wheel",
        )
        .hands_to(tam)
        .passes_to("half_shafts_in")
        .done()
    )
    (
        new(
            1.5,
            callum,
            "halden-tg",
            customer="Mr Wick",
            vehicle="Old field car, Halden Pilot",
            layout="four_wheel_drive",
            kind="transfer_output",
            place="transfer_case",
            complaint="Vibration at speed; rear output has play",
            use="off_road",
        )
        .hands_to(isla)
        .passes_to("rollers")
        .measures("rollers", "Rollers as they came out", ROLLERS, gauge="micrometer")
        .measures("end_play", "Two trials with the old nut", OUTPUT, gauge="dial")
        .done()
    )


def _whole_vehicles(new: New, isla: User, tam: User, callum: User) -> None:
    (
        new(
            0.35,
            callum,
            "brannoch-bf21",
            customer="Lighthouse Board",
            vehicle="Lighthouse truck, Brannoch Fell",
            layout="four_wheel_drive",
            complaint="Taller tyres: both axles to be regeared",
            use="off_road",
        )
        .hands_to(tam)
        .passes_to("fill_plug")
        .adds("ring_and_pinion", "front_axle", "brannoch-bf21")
        .hands_to(isla)
        .passes_to("stands_and_chocks")
        .adds("speedometer", "vehicle")
        .done()
    )
    (
        new(
            0.8,
            callum,
            "",
            customer="Skerrow Post",
            vehicle="Mail van, Corrie Carrier",
            kind="gear_ratio",
            complaint="Taller final drive now, another gearbox later",
        )
        .hands_to(isla)
        .passes_to("gear_set")
        .done()
    )
    (
        new(
            1.4,
            callum,
            "",
            customer="District Nurse",
            vehicle="Nurse's saloon, Ostrel Firth",
            kind="vibration",
            place="vehicle",
            complaint="Shakes between 80 and 95, gone above",
        )
        .hands_to(tam)
        .passes_to("felt")
        .done()
    )
