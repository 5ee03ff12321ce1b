"""Blocks of a run sheet: a few steps that belong together, written once and put together into kinds of work."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from amber_core.procedures.steps import Ask, LibraryStep, Step, Way, only
from amber_core.words import Said, say

TAKE_IN, PREPARE, APART = say("Take in"), say("Prepare"), say("Measure and take apart")
INSPECT, SET_UP, ASSEMBLE, PROVE = say("Inspect"), say("Set up"), say("Assemble"), say("Prove")

Make = Callable[..., LibraryStep]


def _in(group: Said) -> Make:
    def make(code: str, title: Said, why: Said, needs: str = "", **more: Any) -> LibraryStep:
        return LibraryStep(step=Step(code=code, group=group, title=title, why=why, **more), needs=needs.split())

    return make


take, prep, apart, look, setup, build, prove = (_in(one) for one in (TAKE_IN, PREPARE, APART, INSPECT, SET_UP, ASSEMBLE, PROVE))

ROLLS = say("The vehicle can roll: with a propshaft out, neither Park nor first gear holds it. Chock both ways first.")
HEAVY = say("It is heavier than it looks and can drop: use a lifting aid, and keep hands and feet from under it.")
HOT_OIL = say("Oil can be hot. Old oil goes to collection.")
FINGERS = say("Gears crush fingers: keep your hands out while somebody turns a wheel.")
REACTION = say("The reaction bar can slip and trap a hand: check where it will go before you pull.")
SPRING = say("The spring is under great force and can fly out: wear eye protection and keep your face out of its line.")
PRESSING = say("Hardened rings splinter under a press: use the guard and wear eye protection.")
SOLVENT = say("Solvent: gloves, fresh air, no flame.")
DRIVER_DRIVES = say("The driver drives; another reads.")
CUTTING = say("Cutting and grinding: eye protection, and no spark near oil or solvent.")
WHERE_IT_LIES = say("Write down what lies where, and whether the vehicle may be rolled.")
ENGINE_OFF = say("Engine off, neutral, wheels on the ground chocked: the wheel that is turned is the only one up.")
WHAT_WAS_FOUND = say("What was found")
PIN_HOLDS_GEARS = say("Spider gears turned without their pin fall out of their places.")
PIN_BOLT_BREAKS = say("A cross-pin bolt can break and its head can round off: key out, in gear, and a tool that fits.")
RETAINER_HOLDS = say("The retainer is what keeps the wheel on.")
EACH_BY_SIDE = say("Thickness of each, by side")
OLD_BOLT = say("An old bolt that breaks lets the pin into the gears.")
SEAL_CARRIES_NOTHING = say("The weight of a shaft on its seal ruins it.")
GEAR_SET = say("Gear set identified")
BREAKAWAY = say("Breakaway torque")
THREAD_PAST_NUT = say("Thread past the nut")
ROTATING_TORQUE = say("Rotating torque")
CLIPS_FIRST = say("Clips before the pin: without a clip the shaft leaves the vehicle, wheel and all.")
TOUCHES_NOWHERE = say("Carrier turned all the way round: it touches nowhere")


def take_in() -> list[LibraryStep]:
    return [
        take(
            "complaint",
            say("Complaint noted in the customer's own words, warning lights and fault codes read"),
            say("What was changed before and what lights up often says more than the noise."),
            note=say("Warning lights, fault codes, earlier changes"),
            minutes=10,
        ),
        take(
            "tyres_alike",
            say("Tyres checked: same size, wear and pressure left and right, front and rear"),
            say("Unlike tyres make the noise and the wear that a differential is blamed for."),
            minutes=5,
        ),
        take(
            "refer_out",
            say("No high-voltage drive (orange cables), and no spring brakes that are not caged"),
            say("High-voltage drives and spring brakes go to a trained and equipped shop."),
            hold=True,
            caution=say("High voltage and spring brakes can kill: if either is there, stop and refer the vehicle out."),
            minutes=2,
        ),
    ]


def stands() -> list[LibraryStep]:
    return [
        prep(
            "stands_and_chocks",
            say("Vehicle on axle stands, chocked both ways"),
            say("All the work after this is under or inside the vehicle. Rock it on the stands before anybody goes under."),
            hold=True,
            caution=say(
                "The vehicle can fall or roll: use axle stands and chocks, never a jack alone. With a propshaft or "
                "half shaft out, neither Park, first gear nor a transmission handbrake holds it."
            ),
            minutes=15,
        ),
        prep(
            "key_away",
            say("Key away, air suspension down, battery off near a starter, an airbag or welding"),
            say("Nobody starts it while somebody is under it."),
            caution=say(
                "With a limited slip, a locker or four-wheel drive, one wheel turns others: "
                "never run it in gear with a wheel on the ground."
            ),
            minutes=3,
        ),
    ]


def sensors_off() -> list[LibraryStep]:
    return [
        apart(
            "sensor",
            say("Is there a wheel-speed sensor on this axle?"),
            say("The sheet does not say."),
            needs="!has_sheet",
            act="choose",
            ways=[Way(code="yes", title=say("Yes")), Way(code="no", title=say("No"))],
            minutes=1,
        ),
        *only(
            "has_speed_ring",
            [
                apart(
                    "sensor_out",
                    say("Wheel-speed sensor out before a shaft or hub moves"),
                    say("A sensor that is knocked breaks, and a magnetic reluctor ring takes neither a magnet nor heat."),
                    minutes=10,
                )
            ],
        ),
    ]


def sensors_on() -> list[LibraryStep]:
    return only(
        "has_speed_ring",
        [
            build(
                "speed_ring",
                say("Reluctor ring and wheel-speed sensor refitted"),
                say("If it is forgotten, the axle has to come apart again. The ring is whole, clean and counted."),
                hold=True,
                minutes=10,
            )
        ],
    )


def fill_first() -> list[LibraryStep]:
    return [
        prep(
            "fill_plug",
            say("Fill plug loose, before the drain plug is touched"),
            say("If the fill plug is stuck, a drained axle cannot be filled again."),
            hold=True,
            caution=HOT_OIL,
            minutes=5,
        ),
        prep(
            "drained",
            say("Oil drained: litres, smell, water and colour"),
            say("Milky oil has water in it, and a burnt smell means heat. How much came out says whether it ran low."),
            act="read",
            asks=[Ask(name="as_found.oil", what=say("Oil drained"), dimension="volume", unit="l", may_skip=True)],
            caution=say("Hot oil burns: let it cool. Old oil goes to collection."),
            note=say("Smell, water, colour"),
            minutes=15,
        ),
        prep(
            "magnet",
            say("Magnet and drained oil judged"),
            say("Paste is normal. Flakes are not. Pieces have to be found, every one."),
            act="choose",
            ways=[
                Way(code="paste", title=say("Paste"), fits=say("Fine grey paste: normal wear."), recommended=True),
                Way(code="flakes", title=say("Flakes"), fits=say("Look at bearings and teeth before anything else.")),
                Way(code="pieces", title=say("Pieces"), fits=say("Something broke: every piece is accounted for before closing.")),
            ],
            photo=True,
            minutes=3,
        ),
    ]


def pieces_found() -> list[LibraryStep]:
    """Between inspection and closing, where pieces were on the magnet."""
    return only(
        "magnet=pieces",
        [
            look(
                "pieces_laid_out",
                say("Broken pieces laid out and put together"),
                say("What is missing from the broken part is still in the housing or a tube."),
                photo=True,
                minutes=20,
            ),
            look(
                "pieces_all",
                say("All pieces accounted for: housing and tubes searched with magnet and lamp, and flushed"),
                say("A piece left behind goes through the new gears."),
                hold=True,
                caution=SOLVENT,
                minutes=30,
            ),
        ],
    )


def breather() -> list[LibraryStep]:
    return [
        build(
            "breather",
            say("Breather open"),
            say("A blocked breather pushes oil out and draws water in."),
            hold=True,
            minutes=5,
        )
    ]


def breather_first() -> list[LibraryStep]:
    return [
        take(
            "breather_first",
            say("Breather checked first: blow through it"),
            say("A stuck breather is a likely cause of a leak, and costs nothing."),
            act="choose",
            ways=[
                Way(code="open", title=say("Open"), recommended=True),
                Way(code="blocked", title=say("Blocked"), fits=say("Likely cause of the leak: clear it, and tell the customer.")),
            ],
            minutes=5,
        )
    ]


def as_found_ring() -> list[LibraryStep]:
    return [
        apart(
            "as_found",
            say("As-found backlash, rotating torque and nut position noted"),
            say("Somebody will ask later whether it was like this before."),
            act="read",
            asks=[
                Ask(
                    name="as_found.backlash",
                    what=say("Backlash, least of four places"),
                    dimension="length",
                    limit="backlash",
                    may_skip=True,
                ),
                Ask(
                    name="as_found.total_torque", what=say("Total rotating torque"), dimension="torque", limit="total_torque", may_skip=True
                ),
                Ask(
                    name="as_found.nut_thread_exposed",
                    what=say("Thread past the pinion nut"),
                    dimension="length",
                    unit="mm",
                    may_skip=True,
                ),
            ],
            caution=FINGERS,
            minutes=20,
        ),
        apart(
            "as_found_pattern",
            say("As-found pattern painted and pictured, both flanks"),
            say("A used gear set goes back to the pattern that it has run in."),
            photo=True,
            may_skip=True,
            minutes=10,
        ),
    ]


def as_found_nut() -> list[LibraryStep]:
    return [
        apart(
            "pinion_play",
            say("Pinion bearings felt: no play, nothing rough"),
            say("A seal on a pinion that moves leaks again in a month."),
            act="choose",
            ways=[
                Way(code="sound", title=say("No play, runs smoothly"), recommended=True),
                Way(
                    code="loose",
                    title=say("Play or rough"),
                    fits=say("Not a seal alone: the bearings come out. Book ring and pinion, or strip and report, on this axle."),
                ),
            ],
            minutes=5,
        ),
        apart(
            "as_found_nut",
            say("Before the nut is touched: rotating torque, thread exposed and clock mark of nut, flange and pinion"),
            say("These marks are the only way back to the same preload."),
            act="read",
            hold=True,
            asks=[
                Ask(
                    name="as_found.rotating_torque",
                    what=say("Rotating torque, wheels off and brakes free"),
                    dimension="torque",
                    limit="pinion_torque_used",
                ),
                Ask(name="as_found.nut_thread_exposed", what=THREAD_PAST_NUT, dimension="length", unit="mm"),
                Ask(name="as_found.nut_clock", what=say("Clock position of the mark (deg)"), dimension="number", unit="°"),
            ],
            photo=True,
            minutes=15,
        ),
    ]


def propshaft_off() -> list[LibraryStep]:
    return [
        apart(
            "match_marks",
            say("Flange, propshaft and pinion nut match-marked"),
            say("Parts that were balanced together go back together."),
            act="take_off",
            caution=ROLLS,
            photo=True,
            minutes=5,
        ),
        apart(
            "propshaft_off",
            say("Propshaft off: joint caps taped, tied up level, slip-yoke output plugged"),
            say("A shaft hung on its joint damages the joint, and a dropped needle is found after it is back in."),
            act="take_off",
            caution=ROLLS,
            minutes=15,
        ),
    ]


def propshaft_on() -> list[LibraryStep]:
    return [
        build(
            "propshaft_on",
            say("Propshaft back on its marks, faces clean"),
            say("One spline or one hole off is a vibration."),
            act="put_back",
            minutes=15,
        ),
        build(
            "propshaft_bolts",
            say("Propshaft bolts torqued, ticked one by one"),
            say("A bolt that turns without gaining torque is stretching: stop and replace it."),
            act="bolts",
            limit="propshaft_bolts",
            hold=True,
            minutes=10,
        ),
    ]


def brakes_off() -> list[LibraryStep]:
    return [
        apart(
            "brakes_off",
            say("Brakes off: calipers tied up, pipes plugged, clips in a tray and pictured"),
            say("A caliper never hangs by its hose. An electric parking brake goes into its service position first."),
            act="take_off",
            caution=say("Brake dust is harmful: wet it, never blow it."),
            photo=True,
            minutes=30,
        )
    ]


def brakes_on() -> list[LibraryStep]:
    return [
        build(
            "brakes_back",
            say("Brakes back on; oily linings replaced on both sides; bled if opened"),
            say("Linings that saw oil never grip alike again."),
            act="put_back",
            minutes=35,
        )
    ]


def brakes_firm() -> list[LibraryStep]:
    return [
        prove(
            "brakes",
            say("Brakes firm before the vehicle moves"),
            say("Any brake that was disturbed has to be checked: firm pedal, and the parking brake holds."),
            hold=True,
            caution=say("Without brakes the vehicle does not stop: pump the pedal until it is firm, before it moves."),
            minutes=5,
        )
    ]


SHAFTS = [
    Way(code="clip", title=say("Clip in the differential"), fits=say("Cross pin out, shaft in, clip off.")),
    Way(code="retainer", title=say("Bolted retainer at the tube end"), fits=say("Retainer nuts off, shaft pulled with its bearing.")),
    Way(code="full_float", title=say("Full-float hub"), fits=say("Flange bolts off, shaft pulled; the hub stays.")),
    Way(code="half_shafts", title=say("Half shafts with a circlip"), fits=say("Independent wheels: levered out at the housing.")),
]


def shafts_held() -> list[LibraryStep]:
    return [
        prep(
            "shafts",
            say("How the axle shafts are held"),
            say("It decides what comes off first and how they come out."),
            act="choose",
            ways=SHAFTS,
            minutes=1,
        )
    ]


def shafts_out() -> list[LibraryStep]:
    """Axle shafts out, whichever way they are held; the way is chosen in `shafts_held`."""
    return [
        *brakes_off(),
        *sensors_off(),
        *only("shafts=clip", cross_pin_out()),
        *only("shafts=clip", clips_out()),
        apart(
            "retainers_off",
            say("Retainer nuts off, axle shafts pulled straight"),
            SEAL_CARRIES_NOTHING,
            needs="shafts=retainer",
            act="take_off",
            caution=HEAVY,
            minutes=25,
        ),
        apart(
            "flanges_off",
            say("Drive-flange bolts off, taper cones freed with the nuts on, axle shafts out"),
            say("A cone that jumps off a stud hits somebody: the nut stays on by its thread until it is free."),
            needs="shafts=full_float",
            act="take_off",
            caution=say("Taper cones jump when they come free: strike with the nuts on."),
            minutes=25,
        ),
        *only("shafts=half_shafts", half_shafts_out()),
    ]


def half_shafts_out() -> list[LibraryStep]:
    return [
        apart(
            "as_found_half_shaft",
            say("Gap between half shaft and housing, fully home, both sides"),
            say("Later the only proof that a new shaft is home is the old gap."),
            act="read",
            asks=[
                Ask(name="as_found.insertion_gap_left", what=say("Gap, left"), dimension="length", unit="mm"),
                Ask(name="as_found.insertion_gap_right", what=say("Gap, right"), dimension="length", unit="mm"),
            ],
            minutes=5,
        ),
        apart(
            "half_shafts_out",
            say("Half shafts levered out at the housing, one side at a time"),
            say("Side gears fall out of place when both shafts are out without a dummy. A joint is never pulled apart."),
            act="take_off",
            caution=say("A suspension arm is held by its spring: hold it down safely before a ball joint comes apart."),
            minutes=60,
        ),
    ]


def half_shafts_in() -> list[LibraryStep]:
    return [
        build(
            "half_shafts_in",
            say("Half shafts in: circlip gap down, in by hand until the last step, home by their edge, tug at the joint"),
            say("A shaft that looks in can stand on its circlip: it comes out on the first corner."),
            act="put_back",
            minutes=40,
        ),
        build(
            "half_shaft_home",
            say("Gap between half shaft and housing, both sides"),
            say("As found, within half a millimetre: fully home."),
            act="read",
            hold=True,
            asks=[
                Ask(
                    name="insertion_gap_left",
                    what=say("Gap, left"),
                    dimension="length",
                    unit="mm",
                    beside="as_found.insertion_gap_left",
                    least=-0.5,
                    greatest=0.5,
                ),
                Ask(
                    name="insertion_gap_right",
                    what=say("Gap, right"),
                    dimension="length",
                    unit="mm",
                    beside="as_found.insertion_gap_right",
                    least=-0.5,
                    greatest=0.5,
                ),
            ],
            minutes=5,
        ),
    ]


def shafts_in() -> list[LibraryStep]:
    return [
        build(
            "shaft_seals",
            say("New axle-end seals: right way round, square, home by sound and depth"),
            say("Lip to the oil, lip greased. A seal that a shaft was pulled through is done."),
            act="put_back",
            needs="!shafts=half_shafts",
            minutes=20,
        ),
        *only("shafts=clip", clips_in()),
        *only("shafts=clip", pin_bolt()),
        build(
            "retainers_on",
            say("Axle shafts in, retainer nuts torqued and ticked"),
            RETAINER_HOLDS,
            needs="shafts=retainer",
            act="bolts",
            limit="retainer_nuts",
            hold=True,
            minutes=30,
        ),
        build(
            "flanges_on",
            say("Axle shafts in, new flange gaskets, drive-flange nuts torqued and ticked"),
            say("Cones and studs clean and dry, or they work loose."),
            needs="shafts=full_float",
            act="bolts",
            limit="drive_flange_nuts",
            hold=True,
            minutes=30,
        ),
        *only("shafts=half_shafts", half_shafts_in()),
    ]


def cover_off() -> list[LibraryStep]:
    return [
        apart(
            "cover_off",
            say("Cover off: bottom bolts first, one top bolt left in by its thread"),
            say("The cover stays on while the oil runs out. Cover the gears before the surface is cleaned, with plastic tools only."),
            act="take_off",
            caution=HOT_OIL,
            minutes=20,
        )
    ]


COVER_WAYS = [
    Way(code="paper", title=say("Paper gasket"), fits=say("Flat, clean surfaces with a gasket that fits.")),
    Way(
        code="sealant",
        title=say("Sealant"),
        fits=say("Any sound surface. A bead round every hole, and it has to cure before oil goes in."),
        risk=say("Leaks when it is filled too early."),
        recommended=True,
    ),
    Way(code="rubber", title=say("Reusable rubber gasket"), fits=say("Where the maker has one."), risk=say("Spoilt by sealant beside it.")),
    Way(code="home_made", title=say("Home-made gasket"), fits=say("Nothing to be had: drawn, printed true to size and cut.")),
]


def cover_on() -> list[LibraryStep]:
    return [
        build(
            "cover_seal",
            say("How the cover is sealed"),
            say("Each way has its own surface, its own torque and its own waiting."),
            act="choose",
            ways=COVER_WAYS,
            minutes=1,
        ),
        build(
            "cover",
            say("Cover on, bolts staged crosswise, ticked"),
            say("Longer bolts for a thicker cover must not bottom."),
            act="bolts",
            limit="cover_bolts",
            caution=say("Small bolts strip alloy threads: use low torque. A bolt that turns without gaining torque is stretching: stop."),
            minutes=20,
        ),
        build(
            "cover_cured",
            say("Sealant cured"),
            say("Sealant that has not cured leaks."),
            needs="cover_seal=sealant",
            act="clock",
            wait_minutes=720,
            minutes=1,
        ),
    ]


def caps() -> list[LibraryStep]:
    return [
        apart(
            "caps_marked",
            say("Bearing caps and adjusters marked: side and way up"),
            say("Bearing caps are bored with the axle housing and fit one way only."),
            hold=True,
            act="take_off",
            photo=True,
            minutes=5,
        ),
        apart(
            "spreader",
            say("Case spreader: opening read on a dial indicator, spreader off again"),
            say("An axle housing spread past the maker's limit does not spring back."),
            needs="has_spreader",
            act="read",
            asks=[Ask(name="case_spread", what=say("Greatest opening on the dial"), dimension="length", unit="mm", limit="case_spread")],
            hold=True,
            caution=say(
                "The carrier is heavy and can drop: support it. Never spread past the maker's limit, and never leave the spreader on."
            ),
            minutes=15,
        ),
        apart(
            "carrier_out",
            say("Carrier out, with help or a lifting aid"),
            say("Bearing cups stay with their sides."),
            act="take_off",
            caution=HEAVY,
            minutes=10,
        ),
    ]


def shims_kept() -> list[LibraryStep]:
    return [
        apart(
            "shims_kept",
            say("Shims bagged by side, order and thickness"),
            say("They are the starting point for every move. A damaged or broken-up shim is a finding."),
            act="take_off",
            note=EACH_BY_SIDE,
            minutes=10,
        )
    ]


def inspect() -> list[LibraryStep]:
    return [
        look(
            "inspected",
            say("Teeth, bearings, bores and splines inspected before they are washed"),
            say("A brinelled cup gives false readings: replace it before you measure. Each part: good, clean up, repair or replace."),
            caution=say("A bearing spun with compressed air can burst: never do it."),
            note=WHAT_WAS_FOUND,
            photo=True,
            minutes=25,
        ),
        *pieces_found(),
    ]


def open_axle() -> list[LibraryStep]:
    """Everything from the fill plug to the carrier on the bench."""
    return [*as_found_ring(), *propshaft_off(), *cover_off(), *shafts_out(), *caps(), *shims_kept(), *inspect()]


def close_axle() -> list[LibraryStep]:
    """What was opened, in reverse; the carrier is in."""
    return [*shafts_in(), *cover_on(), *propshaft_on(), *breather(), *sensors_on(), *brakes_on(), *plug_and_fill()]


def press(code: str, title: Said) -> list[LibraryStep]:
    return [
        setup(
            code,
            title,
            say("A cone is pressed on its inner ring and a cup on its outer ring. Home by feeler gauge and by sound."),
            caution=PRESSING,
            minutes=25,
        ),
        setup(
            f"{code}_hot",
            say("If it was heated: at most 120 °C or the sheet's figure, no flame, sealed bearings never"),
            say("Hotter than that, the ring gear loses its hardness."),
            caution=say("Hot parts burn: gloves, and no flame near oil or solvent."),
            may_skip=True,
            minutes=10,
        ),
    ]


LAND_WAYS = [
    Way(
        code="polish",
        title=say("Polish and use again"),
        fits=say("No groove that a fingernail catches. Polished round only."),
        recommended=True,
    ),
    Way(
        code="sleeve",
        title=say("Repair sleeve"),
        fits=say("A groove or pitting. The thin sleeve gives a new surface."),
        risk=say("A seal for the larger diameter."),
    ),
    Way(
        code="new_flange",
        title=say("New flange"),
        fits=say("Pitted or worn past a sleeve."),
        risk=say("A flange of another length makes the marks worthless: the preload is measured again."),
    ),
]


def flange_land() -> list[LibraryStep]:
    return [
        look(
            "flange_land",
            say("Seal surface of the flange looked at and measured"),
            say("Polished round only: lengthwise marks pump oil out like a screw."),
            act="choose",
            ways=LAND_WAYS,
            photo=True,
            minutes=10,
        ),
        look(
            "flange_length",
            say("New flange's length against the old one"),
            say("Another length moves the nut: the marks no longer mean anything."),
            needs="flange_land=new_flange",
            act="read",
            asks=[
                Ask(name="as_found.flange_length", what=say("Old flange, face to seat"), dimension="length", unit="mm"),
                Ask(
                    name="flange_length",
                    what=say("New flange, face to seat"),
                    dimension="length",
                    unit="mm",
                    beside="as_found.flange_length",
                ),
            ],
            minutes=10,
        ),
    ]


def seal_in(title: Said) -> list[LibraryStep]:
    return [
        build(
            "seal_in",
            title,
            say("Lip to the oil, arrow with the rotation, lip greased and kept off the splines. Square, home by sound and depth."),
            act="put_back",
            minutes=15,
        )
    ]


NUT_WAYS = [
    Way(
        code="back_to_mark",
        title=say("Back to its mark"),
        fits=say("A seal alone, sound bearings, the same flange: as found plus the maker's small addition."),
        risk=say("Past the mark, the crush sleeve is done."),
    ),
    Way(
        code="new_sleeve",
        title=say("New crush sleeve, measured"),
        fits=say("Anything was changed: bearings, flange or sleeve."),
        risk=say("Only goes one way."),
    ),
    Way(
        code="spacer",
        title=say("Solid spacer with shims, measured"),
        fits=say("Where a spacer fits: it keeps its preload under full nut torque."),
        risk=say("Takes several trials."),
    ),
    Way(code="outer_shims", title=say("Shims under the outer bearing, measured"), fits=say("Where the axle is built so.")),
]


def nut(*ways: str) -> list[LibraryStep]:
    """The pinion nut by one of these ways, the first of them recommended."""
    offered = [replace(one, recommended=one.code == ways[0]) for one in NUT_WAYS if one.code in ways]
    steps = [
        build(
            "nut",
            say("How the pinion preload is set"),
            say("Each way is measured differently. The choice and its reason stay on the record."),
            act="choose",
            ways=offered,
            minutes=2,
        ),
        build(
            "nut_to_mark",
            say("Old nut back to its mark in small steps, then its rotating torque"),
            say(
                "As found or a little more, never under, and never over the window for used bearings. "
                "Past the mark: choose a new crush sleeve."
            ),
            needs="nut=back_to_mark",
            act="read",
            hold=True,
            asks=[
                Ask(
                    name="rotating_torque",
                    what=ROTATING_TORQUE,
                    dimension="torque",
                    limit="pinion_torque_used",
                    beside="as_found.rotating_torque",
                    at_least_as_found=True,
                ),
                Ask(
                    name="nut_thread_exposed",
                    what=THREAD_PAST_NUT,
                    dimension="length",
                    unit="mm",
                    beside="as_found.nut_thread_exposed",
                ),
            ],
            caution=REACTION,
            minutes=20,
        ),
        build(
            "sleeve_new",
            say("New crush sleeve and new nut on; the old ones are scrapped"),
            say("A used sleeve has nothing left to crush."),
            needs="nut=new_sleeve",
            act="put_back",
            minutes=10,
        ),
        build(
            "spacer_stack",
            say("Spacer stack measured from the old sleeve, first trial with play"),
            say("Full nut torque never goes on a stack that may be short."),
            needs="nut=spacer",
            minutes=45,
        ),
        build(
            "preload",
            say("Pinion rotating torque inside its window, turning steadily"),
            say("A crush sleeve only goes one way: once it is past the window, it has to be replaced."),
            needs="!nut=back_to_mark",
            act="read",
            asks=[Ask(name="rotating_torque", what=ROTATING_TORQUE, dimension="torque", limit="pinion_torque")],
            limit="pinion_nut",
            hold=True,
            caution=REACTION,
            minutes=30,
        ),
        build(
            "nut_locked",
            say("Nut staked or locked"),
            say("A nut that turns back takes the preload with it."),
            minutes=3,
        ),
    ]
    offered_ways = {f"nut={one}" for one in ways}
    return [
        replace(one, needs=[need for need in one.needs if need.removeprefix("!") in offered_ways])
        for one in steps
        if all(need.startswith("!") or need in offered_ways for need in one.needs)
    ]


def plug_and_fill() -> list[LibraryStep]:
    return [
        build(
            "oil",
            say("Oil filled: litres poured"),
            say("Friction modifier first, where there is one. Level place, filled to the level for that oil, settled and filled again."),
            act="read",
            asks=[Ask(name="oil", what=say("Litres poured"), dimension="volume", unit="l", limit="oil", least=0.001)],
            limit="fill_plug",
            hold=True,
            note=say("Oil, batch, modifier"),
            caution=say("Nothing turns under power before the oil is in."),
            minutes=20,
        )
    ]


def wheel_nuts() -> list[LibraryStep]:
    return [
        prove(
            "wheel_nuts",
            say("Wheel nuts torqued by hand; odometer read"),
            say("Wheel nuts are due again after 50 to 100 km."),
            act="read",
            asks=[Ask(name="odometer", what=say("Odometer"), dimension="distance", unit="km")],
            limit="wheel_nuts",
            hold=True,
            minutes=10,
        )
    ]


def odometer() -> list[LibraryStep]:
    return [
        prove(
            "odometer",
            say("Odometer read"),
            say("Everything that comes due later counts from here."),
            act="read",
            asks=[Ask(name="odometer", what=say("Odometer"), dimension="distance", unit="km")],
            minutes=1,
        )
    ]


def road_test() -> list[LibraryStep]:
    return [
        prove(
            "road_test",
            say("Road test in stages: drive, floating, overrun"),
            say("Listen at each stage, and measure the pinion and wheel ends with a thermometer."),
            caution=say("Parts get hot. Never run at road speed on axle stands."),
            note=say("What was heard, km, temperatures"),
            aid="heat",
            minutes=30,
        )
    ]


def leaks() -> list[LibraryStep]:
    return [
        prove(
            "leak_cold",
            say("No leak, cold"),
            say("A seal that drips now is easier to change now."),
            minutes=3,
        ),
        prove(
            "leak_warm",
            say("No leak after the first drive, warm"),
            say("Oil gets thin and pressure rises."),
            caution=say("Hot parts burn."),
            may_skip=True,
            minutes=3,
        ),
        prove(
            "leak_morning",
            say("No leak next morning"),
            say("What drips slowly shows overnight."),
            act="clock",
            wait_minutes=720,
            may_skip=True,
            minutes=3,
        ),
    ]


def fault_codes() -> list[LibraryStep]:
    return [
        prove(
            "fault_codes",
            say("Fault codes read again and cleared"),
            say("A sensor that was left off shows here first."),
            note=say("Codes before and after"),
            may_skip=True,
            minutes=5,
        )
    ]


def hand_over() -> list[LibraryStep]:
    return [
        prove(
            "run_in",
            say("Run-in explained and handed over in writing"),
            say("What the customer must do in the first days and kilometres, and when to stop and ring."),
            minutes=10,
        )
    ]


def by_hand() -> list[LibraryStep]:
    return [
        prove(
            "by_hand",
            say("Turned by hand: smooth, no tight place"),
            say("What binds now breaks under power."),
            caution=FINGERS,
            minutes=3,
        )
    ]


def ending(*, wheels: bool = True) -> list[LibraryStep]:
    """Proof and hand-over of work on a vehicle."""
    return [
        *by_hand(),
        *leaks()[:1],
        *(wheel_nuts() if wheels else odometer()),
        *brakes_firm(),
        *road_test(),
        *leaks()[1:],
        *fault_codes(),
        *hand_over(),
    ]


def cap_bolts() -> list[LibraryStep]:
    """Before any reading at the bench counts."""
    return [
        setup(
            "cap_bolts",
            say("Bearing cap bolts at full torque, ticked one by one"),
            say("Readings with loose bearing caps do not count."),
            act="bolts",
            hold=True,
            limit="cap_bolts",
            minutes=10,
        )
    ]


def pinion_flange_off() -> list[LibraryStep]:
    """The nut is off, the flange comes by a puller."""
    return [
        apart(
            "flange_off",
            say("Nut off against a bar, flange off by a puller"),
            say("A hammer marks the seal surface and the bearings."),
            act="take_off",
            caution=REACTION,
            minutes=20,
        )
    ]


def spline_sealed() -> list[LibraryStep]:
    """Where oil creeps along the splines."""
    return [
        build(
            "spline_sealed",
            say("Splines sealed where the sheet says so"),
            say("Oil creeps along the splines past a good seal."),
            may_skip=True,
            minutes=3,
        )
    ]


def flange_runout() -> list[LibraryStep]:
    """Before the ring gear goes on."""
    return [
        setup(
            "flange_runout",
            say("Carrier flange runout read before the ring gear goes on"),
            say("Dried thread locker or a burr shows as runout: clean the flange and the threads first."),
            act="read",
            asks=[Ask(name="flange_runout", what=say("Runout of the flange"), dimension="length", limit="flange_runout")],
            may_skip=True,
            minutes=10,
        )
    ]


def pin_bolt() -> list[LibraryStep]:
    """The bolt that keeps the cross pin."""
    return [
        build(
            "pin_bolt",
            say("New cross-pin bolt, thread locker, torqued"),
            OLD_BOLT,
            act="bolts",
            limit="pin_bolt",
            hold=True,
            minutes=5,
        )
    ]


def clips_in() -> list[LibraryStep]:
    """Axle shafts that clips hold."""
    return [
        build(
            "clips_in",
            say("Axle shafts in, clips in, then the cross pin"),
            CLIPS_FIRST,
            act="put_back",
            hold=True,
            minutes=20,
        )
    ]


def clips_out() -> list[LibraryStep]:
    """Axle shafts that clips hold."""
    return [
        apart(
            "clips_out",
            say("Axle shafts pushed in, clips out, shafts out past the seal lip"),
            say("Clips go back before the pin. The weight of a shaft on its seal ruins it."),
            act="take_off",
            minutes=15,
        )
    ]


def cross_pin_out() -> list[LibraryStep]:
    """The pin of the spider gears."""
    return [
        apart(
            "cross_pin_out",
            say("Cross-pin bolt and cross pin out; nothing is turned from now on"),
            PIN_HOLDS_GEARS,
            act="take_off",
            caution=PIN_BOLT_BREAKS,
            minutes=15,
        )
    ]
