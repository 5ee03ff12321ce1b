"""The kinds of work: each a name, where on a vehicle it belongs, and its blocks in order."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from amber_core.procedures import blocks as b
from amber_core.procedures.blocks import apart, build, look, prep, prove, setup, take
from amber_core.procedures.steps import Ask, LibraryStep, Way, only
from amber_core.words import Said, say

AXLES = ("front_axle", "rear_axle")
SHAFTS = ("front_shaft", "rear_shaft")
ANYWHERE = ("vehicle", *AXLES, *SHAFTS, "transfer_case", "gearbox")

Build = Callable[[], list[LibraryStep]]


@dataclass(frozen=True, slots=True, kw_only=True)
class Kind:
    """A kind of work.

    Parameters
    ----------
    code, title : str
        A fixed name, and the name on the screen.
    about : str
        When it is booked, in a sentence.
    places : tuple of str
        The assemblies of a vehicle that it can be on, as the vehicle's map names them.
    steps : list of LibraryStep
        Every step of it, in order, each with what it needs.
    bench : bool
        Whether it is set up on the Set-up bench, which wants an axle family.
    """

    code: str
    title: Said
    about: Said
    places: tuple[str, ...]
    steps: list[LibraryStep]
    bench: bool = False


def _ring_and_pinion() -> list[LibraryStep]:
    return [
        *b.take_in(),
        *b.stands(),
        *b.fill_first(),
        prep(
            "gear_set",
            b.GEAR_SET,
            say("A guessed ratio is often wrong. Count teeth or turns; the set number is alike on both."),
            act="measure",
            measure="gear_set",
            caution=b.FINGERS,
            minutes=10,
        ),
        *b.shafts_held(),
        *b.open_axle(),
        apart(
            "pinion_out",
            say("Pinion nut and flange off, pinion out; slinger's face noted"),
            say("The old crush sleeve is kept until the spacer or the new sleeve is in: its length is a starting point."),
            act="take_off",
            caution=b.REACTION,
            minutes=30,
        ),
        look(
            "housing_clean",
            say("Housing and tubes flushed and wiped out"),
            say("Dirt under a shim or a cup is a wrong reading."),
            caution=b.SOLVENT,
            minutes=25,
        ),
        *b.press("press_bearings", say("Bearings on and cups in, each on its own ring")),
        *b.flange_runout(),
        setup(
            "ring_bolts",
            say("Ring gear bolts torqued crosswise and ticked one by one"),
            say("A loose ring gear bolt comes out through the cover. Every thread started by hand, drawn down evenly."),
            act="bolts",
            hold=True,
            caution=say("Clean the flange first: dried thread locker or a burr shows as runout."),
            limit="ring_bolts",
            minutes=30,
        ),
        *b.cap_bolts(),
        *_backlash_and_pattern(),
        *b.nut("new_sleeve", "spacer", "outer_shims"),
        *b.seal_in(say("New pinion seal in, after the last trial")),
        build(
            "final_reading",
            say("Everything read once more after the final assembly"),
            say(
                "Final bearings, crush sleeve, seal and nut can change what the trial showed. Read the rotating "
                "torque, the backlash round the ring gear and both patterns again."
            ),
            act="measure",
            measure="bench_final",
            hold=True,
            photo=True,
            caution=say("Gears crush fingers: keep your hands out while somebody turns the pinion."),
            minutes=40,
        ),
        *b.close_axle(),
        *b.ending(),
    ]


def _backlash_and_pattern() -> list[LibraryStep]:
    return [
        setup(
            "backlash",
            say("Backlash round the ring gear inside its window"),
            say("The least reading counts against the minimum, the difference between greatest and least against the variation."),
            act="measure",
            measure="bench_backlash",
            hold=True,
            minutes=45,
        ),
        setup(
            "pattern",
            say("Contact pattern painted and read, drive and coast"),
            say("Backlash alone does not show where the teeth meet."),
            act="measure",
            measure="bench_pattern",
            hold=True,
            minutes=20,
        ),
    ]


def _pinion_seal() -> list[LibraryStep]:
    return [
        *b.take_in(),
        *b.breather_first(),
        *b.stands(),
        *b.fill_first(),
        *b.brakes_off(),
        *b.propshaft_off(),
        *b.as_found_nut(),
        *b.pinion_flange_off(),
        *b.flange_land(),
        apart(
            "seal_out",
            say("How the old seal comes out"),
            say("The bore must not be scratched: a scratch is the next leak."),
            act="choose",
            ways=[
                Way(code="puller", title=say("Seal puller"), fits=say("Room for its hook behind the lip."), recommended=True),
                Way(
                    code="screws",
                    title=say("Screws in drilled holes"),
                    fits=say("A tight seal with a steel face."),
                    risk=say("Swarf: grease the drill."),
                ),
                Way(code="chisel", title=say("Chisel on the seal's flange"), fits=say("A seal with a flange outside the bore.")),
            ],
            caution=say("Swarf and splinters: wear eye protection."),
            minutes=15,
        ),
        look(
            "slinger_face",
            say("Slinger's face and order noted, bore clean and whole"),
            say("A slinger the wrong way round throws the oil at the seal."),
            photo=True,
            minutes=5,
        ),
        *b.seal_in(say("New pinion seal in")),
        *b.spline_sealed(),
        *b.nut("back_to_mark", "new_sleeve", "spacer"),
        *b.propshaft_on(),
        *b.breather(),
        *b.brakes_on(),
        *b.plug_and_fill(),
        *b.ending(),
    ]


def _third_member() -> list[LibraryStep]:
    return [
        *b.take_in(),
        look(
            "unit_compared",
            say("New third member compared before it goes in: ratio, spline, offset, backlash, rotating torque"),
            say("What does not fit is found on the bench, not under the vehicle. Front and rear have to be alike, or one is not driven."),
            act="read",
            asks=[
                Ask(name="unit.backlash", what=say("Backlash as delivered"), dimension="length", limit="backlash"),
                Ask(name="unit.rotating_torque", what=say("Rotating torque as delivered"), dimension="torque", limit="total_torque"),
            ],
            note=say("Ratio counted, splines counted, offset"),
            minutes=25,
        ),
        look(
            "air_locker",
            say("Is there an air-operated locker?"),
            say("Its line is routed, tested and taped before anything covers it."),
            act="choose",
            ways=[
                Way(code="no", title=say("No"), recommended=True),
                Way(code="yes", title=say("Yes"), fits=say("Air line, fitting and switch come with it.")),
            ],
            minutes=1,
        ),
        *b.stands(),
        *b.fill_first(),
        *b.propshaft_off(),
        *b.shafts_held(),
        *only(
            "air_locker=yes",
            [
                apart(
                    "air_down",
                    say("Air let down before a line is opened"),
                    say("A line under pressure whips."),
                    caution=say("Air under pressure throws dirt and lines: eyes, and let it down first."),
                    minutes=5,
                )
            ],
        ),
        *b.shafts_out(),
        apart(
            "unit_out",
            say("Third member out on a jack, last two nuts left on until it hangs"),
            say("Brake pipes stay on by freeing their brackets, or are capped."),
            act="take_off",
            caution=b.HEAVY,
            minutes=40,
        ),
        *b.pieces_found(),
        look(
            "housing_clean",
            say("Housing cleaned; centre spacer or thrust block in its place"),
            say("A thrust block left out lets the shafts in too far."),
            caution=b.SOLVENT,
            minutes=25,
        ),
        build(
            "unit_in",
            say("Third member in, gasket or sealant as stated"),
            say("Studs and face clean, every nut started by hand."),
            act="put_back",
            caution=b.HEAVY,
            minutes=30,
        ),
        build(
            "unit_bolts",
            say("Third-member nuts torqued crosswise and ticked"),
            say("Drawn down unevenly, the flange leaks."),
            act="bolts",
            limit="unit_nuts",
            hold=True,
            minutes=15,
        ),
        *only(
            "air_locker=yes",
            [
                build(
                    "air_line",
                    say("Air line: fitting, route, taped until it is connected"),
                    say("Dirt in the line blocks the locker."),
                    minutes=30,
                ),
                build(
                    "air_test",
                    say("Leak test held"),
                    say("A leak now is a locker that lets go on a slope."),
                    act="clock",
                    wait_minutes=15,
                    hold=True,
                    minutes=5,
                ),
            ],
        ),
        *b.close_axle(),
        *only(
            "air_locker=yes",
            [
                prove(
                    "locks_and_frees",
                    say("Locker locks and frees"),
                    say("One wheel up, turned by hand: locked both turn, free one."),
                    hold=True,
                    caution=say("Engine off: with the locker in, one wheel on the ground drives the vehicle off the stands."),
                    minutes=10,
                )
            ],
        ),
        *b.ending(),
        prove(
            "old_unit",
            say("Old unit packed for return, or kept: which, and until when"),
            say("Returned for credit, or what it was stays known."),
            note=say("Returned or kept, number"),
            minutes=10,
        ),
    ]


def _final_drive() -> list[LibraryStep]:
    return [
        *b.take_in(),
        *b.breather_first(),
        *b.stands(),
        *b.fill_first(),
        *b.propshaft_off(),
        *b.brakes_off(),
        *b.sensors_off(),
        *b.half_shafts_out(),
        apart(
            "unit_out",
            say("Final drive out"),
            say("Mounts and bolts go back where they were."),
            act="take_off",
            caution=b.HEAVY,
            minutes=45,
        ),
        *b.as_found_ring(),
        apart(
            "halves_apart",
            say("Covers off or halves apart at their lever points"),
            say("A screwdriver between the faces is the next leak."),
            act="take_off",
            minutes=30,
        ),
        apart(
            "cover_shims",
            say("Shims under the cover flanges marked by side and clock position"),
            say("They hold the ring gear where it is."),
            act="take_off",
            note=b.EACH_BY_SIDE,
            minutes=10,
        ),
        apart(
            "inner_nut",
            say("Inner nut off: left-hand thread or special tool, as the sheet says"),
            say("A home-made tool has to sit fully in its slots."),
            act="take_off",
            caution=b.REACTION,
            minutes=25,
        ),
        *b.inspect(),
        *b.press("press_bearings", say("Bearings out and in; alloy housing warmed evenly")),
        prep(
            "gear_set",
            b.GEAR_SET,
            say("Count teeth or turns."),
            act="measure",
            measure="gear_set",
            caution=b.FINGERS,
            minutes=10,
        ),
        *b.nut("spacer", "new_sleeve", "outer_shims"),
        setup(
            "case_clearance",
            b.TOUCHES_NOWHERE,
            say("A larger carrier touches bosses. Ground only with the pinion bearing sealed off, and cleaned after."),
            hold=True,
            caution=say("Grinding beside an open bearing: seal it off first, and wear eye protection."),
            minutes=20,
        ),
        setup(
            "side_cover_bolts",
            say("Side cover bolts torqued and ticked"),
            say("Low torque: small bolts into alloy."),
            act="bolts",
            limit="cover_bolts",
            hold=True,
            minutes=15,
        ),
        *_backlash_and_pattern(),
        *b.seal_in(say("New seals in: pinion and both sides")),
        build(
            "unit_in",
            say("Final drive in, mounts torqued"),
            say("Mounts are tightened at ride height."),
            act="put_back",
            caution=b.HEAVY,
            minutes=45,
        ),
        *b.half_shafts_in(),
        *b.propshaft_on(),
        *b.breather(),
        *b.sensors_on(),
        *b.brakes_on(),
        *b.plug_and_fill(),
        *b.ending(),
    ]


def _differential() -> list[LibraryStep]:
    return [
        *b.take_in(),
        *b.stands(),
        *b.fill_first(),
        prep(
            "gear_set",
            b.GEAR_SET,
            say("The ratio stays: count what is in."),
            act="measure",
            measure="gear_set",
            caution=b.FINGERS,
            minutes=10,
        ),
        *b.shafts_held(),
        *b.open_axle(),
        look(
            "splines_compared",
            say("Side-gear splines, shaft ends, thrust block and spacer compared, old and new"),
            say("A shaft that goes in too far or not far enough is found now."),
            minutes=15,
        ),
        *b.press("press_bearings", say("Side bearings on the new carrier, heights compared with the old")),
        *b.flange_runout(),
        setup(
            "ring_off_on",
            say("Ring gear off the old carrier and on the new one; reluctor ring carried over"),
            say("Driven off through the bolt holes, a little at each. Threads clean, every one started by hand."),
            act="put_back",
            caution=say("A ring gear that drops breaks toes and teeth: wooden block under it."),
            minutes=30,
        ),
        setup(
            "ring_bolts",
            say("New ring gear bolts torqued crosswise and ticked one by one"),
            say("A loose ring gear bolt comes out through the cover."),
            act="bolts",
            hold=True,
            limit="ring_bolts",
            minutes=30,
        ),
        setup(
            "case_clearance",
            b.TOUCHES_NOWHERE,
            say("A larger carrier touches bosses of the housing."),
            hold=True,
            caution=b.FINGERS,
            minutes=10,
        ),
        *b.cap_bolts(),
        *_backlash_and_pattern(),
        *b.close_axle(),
        *b.ending(),
    ]


def _pin_and_gears() -> list[LibraryStep]:
    """From the soaking to the spring out; cross pin, clips and shafts are the shafts' block where clips hold them."""
    return [
        *b.shafts_held(),
        *b.brakes_off(),
        *b.sensors_off(),
        *b.cross_pin_out(),
        *only("shafts=clip", b.clips_out()),
        apart(
            "retainers_off",
            say("Axle shafts pulled far enough to clear the side gears"),
            b.SEAL_CARRIES_NOTHING,
            needs="!shafts=clip",
            act="take_off",
            minutes=25,
        ),
    ]


def _pin_back() -> list[LibraryStep]:
    return [
        *only("shafts=clip", b.clips_in()),
        build(
            "shafts_back",
            say("Cross pin in, axle shafts back"),
            say("The shaft ends must clear the pin."),
            needs="!shafts=clip",
            act="put_back",
            hold=True,
            minutes=25,
        ),
        *b.pin_bolt(),
    ]


def _clutch_packs() -> list[LibraryStep]:
    return [
        *b.take_in(),
        take(
            "soak",
            say("New friction plates soaking in friction modifier"),
            say("Dry plates chatter and burn. The soak begins first: everything else is done meanwhile."),
            act="clock",
            wait_minutes=30,
            minutes=5,
        ),
        *b.stands(),
        apart(
            "as_found_breakaway",
            say("As-found breakaway torque between the wheels"),
            say("It says how much the packs have lost, and whether the repair helped."),
            act="read",
            asks=[Ask(name="as_found.breakaway", what=b.BREAKAWAY, dimension="torque", may_skip=True)],
            caution=b.ENGINE_OFF,
            minutes=15,
        ),
        *b.fill_first(),
        *b.cover_off(),
        *_pin_and_gears(),
        apart(
            "spring_out",
            say("Preload spring clamped and out"),
            say("Never pressed past solid: it breaks."),
            act="take_off",
            caution=b.SPRING,
            minutes=15,
        ),
        apart(
            "gears_marked",
            say("Spider and side gears marked to their places and out"),
            say("Gears that ran together stay together."),
            act="take_off",
            photo=True,
            minutes=10,
        ),
        apart(
            "packs_apart",
            say("Clutch packs apart, plate by plate, in order, sides kept apart"),
            say("The order that came out goes back, unless it was wrong."),
            act="take_off",
            note=say("Order from the side gear outwards"),
            photo=True,
            minutes=15,
        ),
        look(
            "plates_judged",
            say("Plates judged: flat, not blued, lining whole; thrust faces and eyes of the case"),
            say("Blued steel has lost its hardness."),
            note=b.WHAT_WAS_FOUND,
            minutes=15,
        ),
        *b.pieces_found(),
        setup(
            "stack",
            say("Stack of each side measured under a clamp"),
            say("Target less stack is the shim of that side. Both from one kit."),
            act="read",
            asks=[
                Ask(name="stack_left", what=say("Stack, left"), dimension="length", unit="mm", limit="clutch_stack"),
                Ask(name="stack_right", what=say("Stack, right"), dimension="length", unit="mm", limit="clutch_stack"),
            ],
            hold=True,
            minutes=25,
        ),
        setup(
            "plates_soaked",
            say("Plates soaked before they go in"),
            say("The soak clock has to be over, with a wet plate in every gap."),
            hold=True,
            minutes=2,
        ),
        build(
            "gears_in",
            say("Packs and gears in together, side-gear play read"),
            say("No play binds; too much knocks."),
            act="read",
            asks=[Ask(name="side_gear_play", what=say("Side-gear play"), dimension="length", limit="side_gear_play")],
            hold=True,
            minutes=30,
        ),
        build(
            "spring_in",
            say("Preload spring in, never past solid"),
            say("A spring that was pressed flat has lost its force."),
            act="put_back",
            caution=b.SPRING,
            minutes=15,
        ),
        *_pin_back(),
        *b.cover_on(),
        *b.breather(),
        *b.sensors_on(),
        *b.brakes_on(),
        *b.plug_and_fill(),
        prove(
            "breakaway",
            say("Breakaway torque between the wheels"),
            say("The proof of the packs; a little more after the first drive."),
            act="read",
            asks=[
                Ask(name="breakaway", what=b.BREAKAWAY, dimension="torque", limit="breakaway", beside="as_found.breakaway"),
            ],
            hold=True,
            caution=b.ENGINE_OFF,
            minutes=15,
        ),
        *b.ending(),
        prove(
            "figure_eights",
            say("Ten slow figures of eight each way"),
            say("They work the modifier into the plates."),
            minutes=15,
        ),
    ]


def _locker() -> list[LibraryStep]:
    return [
        *b.take_in(),
        *b.stands(),
        *b.fill_first(),
        *b.cover_off(),
        *_pin_and_gears(),
        apart(
            "gears_out",
            say("Spider and side gears out, marked to their places"),
            say("They are what goes back if the locker does not fit."),
            act="take_off",
            photo=True,
            minutes=10,
        ),
        look(
            "pin_measured",
            say("Cross pin, its bores and the thrust faces measured"),
            say("A worn pin or bore eats a locker."),
            act="read",
            asks=[
                Ask(name="pin_worn", what=say("Cross pin, at its most worn place"), dimension="length", unit="mm", limit="cross_pin"),
                Ask(name="pin_bore", what=say("Bore in the case"), dimension="length", unit="mm"),
            ],
            minutes=15,
        ),
        *b.pieces_found(),
        setup(
            "washers",
            say("Thrust washers in or out, as the locker's maker says"),
            say("They change the gap."),
            act="choose",
            ways=[
                Way(code="out", title=say("Left out")),
                Way(code="in", title=say("Put in")),
            ],
            minutes=2,
        ),
        setup(
            "locker_gap",
            say("Gap between the two halves, at both ends"),
            say("Too tight it does not unlock; too wide it slips its teeth."),
            act="read",
            asks=[
                Ask(name="gap_first", what=say("Gap, one end"), dimension="length", limit="locker_gap"),
                Ask(name="gap_second", what=say("Gap, other end"), dimension="length", limit="locker_gap"),
            ],
            hold=True,
            caution=b.SPRING,
            minutes=20,
        ),
        build(
            "compound",
            say("Is retaining compound used on the pin or its bores?"),
            say("It has to cure before the axle turns."),
            act="choose",
            ways=[
                Way(code="no", title=say("No"), recommended=True),
                Way(code="yes", title=say("Yes"), fits=say("A worn bore that is otherwise sound.")),
            ],
            minutes=1,
        ),
        build(
            "compound_cured",
            say("Retaining compound cured"),
            say("Turned before it has cured, it never holds."),
            needs="compound=yes",
            act="clock",
            wait_minutes=720,
            hold=True,
            minutes=10,
        ),
        *_pin_back(),
        build(
            "ratchet_test",
            say("Ratchet test by hand: each wheel, each way"),
            say("Each wheel runs ahead freely both ways, and both drive."),
            act="count",
            asks=[Ask(name="ratchets", what=say("Ways it ratchets (of four)"), dimension="number", least=4, greatest=4)],
            hold=True,
            caution=say("Engine off: a locker drives the vehicle off the stands with one wheel on the ground."),
            minutes=10,
        ),
        *b.cover_on(),
        *b.breather(),
        *b.sensors_on(),
        *b.brakes_on(),
        *b.plug_and_fill(),
        *b.ending(),
        prove(
            "driver_told",
            say("Driver told in writing what the locker does: ice, turns, tyres alike"),
            say("It pushes straight on in a slippery turn."),
            hold=True,
            minutes=5,
        ),
    ]


def _wheel_bearings() -> list[LibraryStep]:
    return [
        *b.take_in(),
        *b.stands(),
        apart(
            "as_found_play",
            say("End play of the wheel as found, indicator fixed to the case, along the axis"),
            say("It says whether the bearing or something else moves."),
            act="read",
            asks=[Ask(name="as_found.end_play", what=say("End play"), dimension="length", limit="wheel_end_play")],
            minutes=10,
        ),
        *b.fill_first(),
        *b.shafts_held(),
        *only("shafts=clip", b.cover_off()),
        *b.shafts_out(),
        apart(
            "bearing_off",
            say("Bearing and retaining ring off: ring drilled and split"),
            say("A torch spoils the shaft."),
            needs="shafts=retainer",
            act="take_off",
            caution=b.PRESSING,
            minutes=30,
        ),
        look(
            "journal",
            say("Bore, journal and flange judged; flange runout read"),
            say("A new bearing on a worn journal does not last."),
            act="read",
            asks=[Ask(name="axle_flange_runout", what=say("Runout of the wheel flange"), dimension="length", limit="axle_flange_runout")],
            minutes=15,
        ),
        setup(
            "press_wheel",
            say("Retainer and seal on the shaft before bearing and new ring; pressed home"),
            say("What is forgotten under a pressed ring costs a ring."),
            needs="shafts=retainer",
            caution=b.PRESSING,
            minutes=30,
        ),
        setup(
            "hub_built",
            say("Cups, cones and seal in the hub; nut set while turning"),
            say("Bearings roll to their place while the hub turns."),
            needs="shafts=full_float",
            minutes=40,
        ),
        *b.shafts_in(),
        build(
            "end_play",
            say("End play after assembly"),
            say("No play is no proof against preload: turn it too."),
            act="read",
            asks=[Ask(name="end_play", what=say("End play"), dimension="length", limit="wheel_end_play", beside="as_found.end_play")],
            hold=True,
            minutes=10,
        ),
        *only("shafts=clip", b.cover_on()),
        *b.breather(),
        *b.sensors_on(),
        *b.brakes_on(),
        *b.plug_and_fill(),
        *b.ending(),
    ]


def _retention() -> list[LibraryStep]:
    return [
        *b.take_in(),
        take(
            "approved",
            say("Approval in hand: who has to agree to the change, and that they did"),
            say("A change of axle shaft retention belongs to a competent shop and can need inspection or certification."),
            hold=True,
            note=say("Who approved, number, date"),
            minutes=15,
        ),
        *b.stands(),
        *b.fill_first(),
        *b.cover_off(),
        *b.brakes_off(),
        *b.sensors_off(),
        apart(
            "cross_pin_out",
            say("Cross-pin bolt and cross pin out, clips out, axle shafts out"),
            b.PIN_HOLDS_GEARS,
            act="take_off",
            caution=b.PIN_BOLT_BREAKS,
            minutes=30,
        ),
        setup(
            "register",
            say("Register of the tube end read at eight places"),
            say("A flange that was welded on out of true is found here: least and greatest stick-out decide."),
            act="read",
            asks=[
                Ask(name="stick_out_least", what=say("Stick-out, least"), dimension="length", unit="mm"),
                Ask(name="stick_out_most", what=say("Stick-out, greatest"), dimension="length", unit="mm"),
            ],
            minutes=25,
        ),
        setup(
            "cut_checked",
            say("Cut plan checked by a second person, tube sealed off against swarf"),
            say("A tube that is cut too short is a new axle."),
            hold=True,
            note=say("Who checked"),
            minutes=10,
        ),
        setup(
            "first_side",
            say("First side to the end: cut, bore dressed, trial fit with backing plate, gap and seal engagement, relief cut, swarf out"),
            say("One side is finished before the other is cut."),
            hold=True,
            caution=b.CUTTING,
            minutes=120,
        ),
        setup(
            "second_side",
            say("Second side the same way"),
            say("What the first side taught is used here."),
            hold=True,
            caution=b.CUTTING,
            minutes=100,
        ),
        build(
            "engagement",
            say("Engagement of both shafts in their side gears"),
            say("A shaft that stands short strips its splines."),
            act="read",
            asks=[
                Ask(name="engagement_left", what=say("Engagement, left"), dimension="length", unit="mm", limit="shaft_engagement"),
                Ask(name="engagement_right", what=say("Engagement, right"), dimension="length", unit="mm", limit="shaft_engagement"),
            ],
            hold=True,
            minutes=15,
        ),
        build(
            "pin_bolt",
            say("Cross pin in, new bolt, thread locker, torqued"),
            b.OLD_BOLT,
            act="bolts",
            limit="pin_bolt",
            hold=True,
            minutes=10,
        ),
        build(
            "retainers_on",
            say("Retainer nuts torqued and ticked, both sides"),
            b.RETAINER_HOLDS,
            act="bolts",
            limit="retainer_nuts",
            hold=True,
            minutes=20,
        ),
        *b.cover_on(),
        *b.breather(),
        *b.sensors_on(),
        *b.brakes_on(),
        *b.plug_and_fill(),
        *b.ending(),
    ]


def _half_shafts() -> list[LibraryStep]:
    return [
        *b.take_in(),
        *b.stands(),
        *b.fill_first(),
        *b.brakes_off(),
        *b.sensors_off(),
        apart(
            "order_out",
            say("Which end comes out first"),
            say("One side at a time, or a dummy in the side gear."),
            act="choose",
            ways=[
                Way(
                    code="hub_first",
                    title=say("Hub end first"),
                    fits=say("The knuckle swings clear and the shaft is held up."),
                    recommended=True,
                ),
                Way(
                    code="inner_first",
                    title=say("Inner end first"),
                    fits=say("Inner flange bolted, hub spline tight, or no room to swing: the plunge of the joint gives the room."),
                ),
            ],
            minutes=1,
        ),
        apart(
            "hub_nuts",
            say("Hub nuts cracked loose with the weight on the wheels, and not rolled after"),
            say("A hub bearing that its nut clamps must carry no weight once the nut is loose."),
            caution=b.REACTION,
            minutes=10,
        ),
        *b.half_shafts_out(),
        look(
            "shaft_compared",
            say("New shaft compared with the old: length, splines, circlip, boots"),
            say("A boot that touches or a shaft a little too long is found on the bench."),
            minutes=10,
        ),
        *b.seal_in(say("New seal in the housing")),
        *b.half_shafts_in(),
        build(
            "hub_nut_torque",
            say("New hub nut torqued before the wheel carries weight, then locked"),
            say("A nut at torque goes on to the next slot, never back."),
            act="bolts",
            limit="hub_nuts",
            hold=True,
            caution=b.REACTION,
            minutes=15,
        ),
        build(
            "bushes",
            say("Bush bolts tightened at ride height"),
            say("Tightened hanging, the bush is twisted for the rest of its life."),
            minutes=10,
        ),
        *b.sensors_on(),
        *b.brakes_on(),
        *b.plug_and_fill(),
        *b.ending(),
    ]


def _joint() -> list[LibraryStep]:
    return [
        *b.take_in(),
        *b.stands(),
        *b.propshaft_off(),
        look(
            "joint_felt",
            say("Each joint judged by feel: free both ways, no play, no notch, no rust dust"),
            say("One bad joint is rarely alone."),
            act="measure",
            measure="driveline_joints",
            minutes=10,
        ),
        apart(
            "joint_out",
            say("Clips out, joint cross out, ears not bent"),
            say("Held by the ear, the tube never in the vice. Plastic-held joints want heat, and a new groove check."),
            act="take_off",
            caution=say("Clips fly and hot plastic burns: wear eye protection and gloves."),
            minutes=25,
        ),
        build(
            "needles",
            say("Needles of each joint cap counted"),
            say("If a cap does not go home, a needle lies across it."),
            act="count",
            asks=[
                Ask(name="needles_due", what=say("Needles in a full joint cap"), dimension="number", least=1, greatest=100),
                Ask(name="needles", what=say("Least needles in any cap"), dimension="number", beside="needles_due", least=0, greatest=0),
            ],
            hold=True,
            minutes=5,
        ),
        build(
            "joint_in",
            say("Joint in: caps home, clips in, nipple reachable, free both ways, greased until it shows at all four caps"),
            say("A joint that is stiff in one way shakes."),
            act="put_back",
            hold=True,
            minutes=25,
        ),
        build(
            "in_phase",
            say("Yokes in phase, balance weights in place"),
            say("One tooth out is a vibration."),
            hold=True,
            minutes=5,
        ),
        *b.propshaft_on(),
        *b.odometer(),
        *b.road_test(),
        *b.hand_over(),
    ]


def _shaft_made() -> list[LibraryStep]:
    return [
        *b.take_in(),
        prep(
            "ride_height",
            say("Ride height read, vehicle loaded as it is used"),
            say("Length and angles are right at one height only."),
            act="read",
            asks=[Ask(name="as_found.ride_height", what=say("Ride height at the axle"), dimension="length", unit="mm")],
            minutes=10,
        ),
        *b.stands(),
        look(
            "angles",
            say("Slopes, length and slip read at ride height, in bump and in droop"),
            say("A slip yoke that bottoms drives the output seal out."),
            act="measure",
            measure="driveline",
            minutes=45,
        ),
        *b.propshaft_off(),
        look(
            "tube",
            say("Tube compared: bending speed, torque, yoke sizes"),
            say("A shaft that fails at speed comes through the floor."),
            act="measure",
            measure="driveline",
            minutes=20,
        ),
        look(
            "ordered",
            say("Order sheet sent to a licensed maker"),
            say("Welding and balancing of a propshaft belong to a licensed maker."),
            note=say("Maker, order, promised day"),
            minutes=15,
        ),
        look(
            "shaft_away",
            say("Waiting for the shaft"),
            b.WHERE_IT_LIES,
            act="wait",
            caution=b.ROLLS,
            minutes=5,
        ),
        look(
            "shaft_back",
            say("On return: length, phase, balance report and runout"),
            say("What comes back is checked before it goes on."),
            act="read",
            asks=[
                Ask(name="shaft_length", what=say("Length, flange to flange"), dimension="length", unit="mm"),
                Ask(name="tube_runout", what=say("Runout of the tube"), dimension="length", limit="tube_runout"),
            ],
            hold=True,
            note=say("Balance report"),
            minutes=20,
        ),
        *b.propshaft_on(),
        build(
            "loop_and_guard",
            say("Safety loop and guards back"),
            say("They are what stands between a broken shaft and people."),
            hold=True,
            minutes=10,
        ),
        *b.odometer(),
        *b.road_test(),
        *b.hand_over(),
    ]


def _transfer_output() -> list[LibraryStep]:
    return [
        *b.take_in(),
        *b.breather_first(),
        *b.stands(),
        apart(
            "as_found_play",
            say("End play of the output as found, indicator fixed to the case, along the axis"),
            say("Fixed to the vice, it measures the vice."),
            act="read",
            asks=[Ask(name="as_found.end_play", what=say("End play"), dimension="length", limit="output_end_play")],
            minutes=10,
        ),
        *b.fill_first(),
        *b.propshaft_off(),
        apart(
            "crossmember",
            say("Gearbox propped, crossmember lowered: how far, and what is still attached"),
            say("Hoses, wires and levers tear before anybody notices."),
            act="take_off",
            caution=say("The vehicle's balance on its stands changes: prop gearbox and vehicle first."),
            minutes=30,
        ),
        apart(
            "housing_out",
            say("Speedometer drive safe, output housing out"),
            say("The drive gear breaks when it is levered on."),
            act="take_off",
            caution=b.HEAVY,
            minutes=30,
        ),
        apart(
            "rollers",
            say("Loose rollers counted against what fits"),
            say("One missing is in the case, or was never there."),
            act="count",
            asks=[
                Ask(name="rollers_due", what=say("Rollers that fit"), dimension="number", least=1, greatest=200),
                Ask(name="rollers", what=say("Rollers counted"), dimension="number", beside="rollers_due", least=0, greatest=0),
            ],
            hold=True,
            minutes=10,
        ),
        *b.shims_kept(),
        *b.inspect(),
        *b.press("press_bearings", say("Bearings out and in, each on its own ring")),
        setup(
            "school",
            say("How the end play is set"),
            say(
                "The sheet comes first. Where it is silent: no play to slight drag for new taper bearings in aluminium, "
                "a small free play in iron."
            ),
            act="choose",
            ways=[
                Way(code="free_play", title=say("Small free play"), fits=say("The maker's figure, iron case, or a long hot shaft.")),
                Way(
                    code="zero",
                    title=say("No play, barely any drag"),
                    fits=say("New taper bearings in an aluminium case."),
                    recommended=True,
                ),
                Way(code="light_preload", title=say("Light preload by rotating torque"), fits=say("Where the sheet gives a torque.")),
            ],
            minutes=2,
        ),
        setup(
            "end_play_trial",
            say("Shim loop with the old nut at low torque, turning while it seats"),
            say("A missing shim cannot crush the bearings at low torque."),
            act="read",
            asks=[
                Ask(name="trial_stack", what=say("Stack"), dimension="length", unit="mm"),
                Ask(name="trial_end_play", what=say("End play"), dimension="length", limit="output_end_play", beside="as_found.end_play"),
            ],
            minutes=45,
        ),
        *b.flange_land(),
        build(
            "gear_concentric",
            say("Gear concentric before the housing goes in"),
            say("Pushed in off centre, it takes the rollers with it."),
            hold=True,
            minutes=5,
        ),
        *b.seal_in(say("New output seal in")),
        build(
            "end_play",
            say("Final torque with a new nut, end play read again"),
            say("Full torque closes what low torque left."),
            act="read",
            asks=[Ask(name="end_play", what=say("End play"), dimension="length", limit="output_end_play", beside="as_found.end_play")],
            limit="output_nut",
            hold=True,
            caution=b.REACTION,
            minutes=20,
        ),
        *b.breather(),
        *b.plug_and_fill(),
        prove(
            "first_run",
            say("First run without the shaft, where the output allows it; oil checked again"),
            say("Only with a flange output, both shafts off, centre differential locked, nobody near."),
            may_skip=True,
            caution=say("An open shaft spins: nobody near, both shafts off."),
            minutes=10,
        ),
        *b.propshaft_on(),
        prove(
            "parking_brake",
            say("Parking brake holds"),
            say("Where it sits on the transfer case, it was taken apart too."),
            hold=True,
            caution=say("Without a parking brake the vehicle can roll: chocks stay until it holds."),
            minutes=5,
        ),
        *b.by_hand(),
        *b.odometer(),
        *b.road_test(),
        *b.leaks(),
        *b.hand_over(),
    ]


def _flange_surface() -> list[LibraryStep]:
    return [
        *b.take_in(),
        *b.breather_first(),
        *b.stands(),
        *b.fill_first(),
        *b.propshaft_off(),
        *b.as_found_nut(),
        *b.pinion_flange_off(),
        *b.flange_land(),
        *b.seal_in(say("New seal or felt ring in")),
        *b.spline_sealed(),
        *b.nut("back_to_mark", "new_sleeve", "spacer"),
        *b.propshaft_on(),
        *b.breather(),
        *b.plug_and_fill(),
        *b.by_hand(),
        *b.odometer(),
        *b.road_test(),
        *b.leaks(),
        *b.hand_over(),
    ]


def _oil_service() -> list[LibraryStep]:
    return [
        *b.take_in(),
        *b.stands(),
        *b.fill_first(),
        prep(
            "drain_way",
            say("Where the oil comes out"),
            say("An axle without a drain plug is emptied through its cover."),
            act="choose",
            ways=[
                Way(code="plug", title=say("Drain plug"), recommended=True),
                Way(code="cover", title=say("Through the cover"), fits=say("No drain plug: the cover comes off and is resealed.")),
            ],
            minutes=1,
        ),
        *only("drain_way=cover", b.cover_off()),
        *b.pieces_found(),
        *only("drain_way=cover", b.cover_on()),
        build(
            "drain_plug",
            say("Drain plug in with a new crush washer"),
            say("Crush washers are one-time-use."),
            needs="drain_way=plug",
            act="put_back",
            minutes=5,
        ),
        *b.breather(),
        *b.plug_and_fill(),
        *b.odometer(),
        *b.leaks(),
    ]


def _strip_and_report() -> list[LibraryStep]:
    return [
        *b.take_in(),
        take(
            "cost_agreed",
            say("Cost of the strip agreed with the customer"),
            say("Who pays if it is not repaired is settled before it is open."),
            hold=True,
            note=say("Sum, who agreed, how"),
            minutes=10,
        ),
        *b.stands(),
        *b.fill_first(),
        look(
            "oil_sample",
            say("Oil sample kept"),
            say("It is proof of what was in there."),
            note=say("Where it stands"),
            minutes=3,
        ),
        *b.shafts_held(),
        *b.open_axle(),
        look(
            "findings",
            say("Findings written and pictured, part by part"),
            say("The customer decides by pictures."),
            note=say("What was found, part by part"),
            photo=True,
            minutes=40,
        ),
        prove(
            "quote",
            say("Quote with its ways sent to the customer"),
            say("Price, days and risk of each way side by side."),
            note=say("Sum of each way"),
            aid="quote",
            minutes=30,
        ),
        prove(
            "customer_answers",
            say("Waiting for the customer's answer"),
            b.WHERE_IT_LIES,
            act="wait",
            caution=b.ROLLS,
            minutes=5,
        ),
        prove(
            "answer",
            say("The customer's answer"),
            say("What was agreed, and what was declined, stays on the record."),
            act="choose",
            ways=[
                Way(code="repair", title=say("Repair"), fits=say("Book the work; what was kept here goes over.")),
                Way(code="exchange", title=say("Exchange unit"), fits=say("Book a third member exchange.")),
                Way(code="close", title=say("Put together unrepaired, or taken away as it is")),
            ],
            minutes=5,
        ),
    ]


def _vibration() -> list[LibraryStep]:
    return [
        *b.take_in(),
        look(
            "felt",
            say("What is felt, at which speed: one drives, another reads"),
            say("Which rotating part turns at the frequency that is felt comes before any spanner."),
            act="measure",
            measure="noise",
            caution=say("On the road one drives and another reads. No road speed on stands."),
            minutes=40,
        ),
        look(
            "slopes",
            say("Slopes of the driveline read at ride height"),
            say("Angles are cheap to read and cause half of all complaints after a lift."),
            act="measure",
            measure="driveline",
            may_skip=True,
            minutes=40,
        ),
        look(
            "checks",
            say("Cheap checks in order, tyres first, one change at a time"),
            say("Two changes at once prove nothing."),
            note=say("What was changed, what it did"),
            caution=say("Nobody near a spinning shaft, and no road speed on stands."),
            minutes=60,
        ),
        *b.odometer(),
        *b.road_test(),
        prove(
            "found",
            say("Source named, or what is next"),
            say("It becomes another kind of work on this job."),
            note=b.WHAT_WAS_FOUND,
            minutes=5,
        ),
    ]


def _gear_ratio() -> list[LibraryStep]:
    return [
        *b.take_in(),
        look(
            "gear_set",
            say("Gear set counted: what is in now"),
            say("A guessed ratio is often wrong. Count teeth or turns."),
            act="measure",
            measure="gear_set",
            caution=b.FINGERS,
            minutes=20,
        ),
        look(
            "ratio",
            say("Ratios compared for the tyres and the use, kept to this work"),
            say("Tyre growth undoes gearing; a shorter final drive gives it back."),
            act="measure",
            measure="ratio",
            minutes=30,
        ),
        look(
            "match",
            say("Front against rear, where both are driven"),
            say("Unlike ends wear the transfer case and the tyres."),
            minutes=5,
        ),
        prove(
            "agreed",
            say("Ratio agreed with the customer, speedometer told"),
            say("It becomes ring and pinion, third member exchange or differential replaced."),
            note=say("What was agreed"),
            minutes=15,
        ),
    ]


def _speedometer() -> list[LibraryStep]:
    return [
        *b.take_in(),
        look(
            "speed_pairs",
            say("True speed against shown at two speeds or more: another reads"),
            say("Least at two speeds apart, on a level road, with warm tyres."),
            act="read",
            asks=[
                Ask(name="shown_low", what=say("Shown, slower"), dimension="number", unit="km/h", least=1, greatest=300),
                Ask(name="true_low", what=say("True, slower"), dimension="number", unit="km/h", least=1, greatest=300),
                Ask(name="shown_high", what=say("Shown, faster"), dimension="number", unit="km/h", least=1, greatest=300),
                Ask(name="true_high", what=say("True, faster"), dimension="number", unit="km/h", least=1, greatest=300),
            ],
            caution=b.DRIVER_DRIVES,
            aid="speed",
            minutes=25,
        ),
        build(
            "factor",
            say("Correction set"),
            say("Never showing less than the true speed."),
            note=say("Factor that was set"),
            minutes=20,
        ),
        prove(
            "checked_again",
            say("Checked again: it shows a little more than true"),
            say("A speedometer that shows less is against the law nearly everywhere."),
            hold=True,
            caution=b.DRIVER_DRIVES,
            minutes=20,
        ),
        *b.odometer(),
    ]


def _kind(code: str, title: Said, about: Said, places: tuple[str, ...], steps: Build, *, bench: bool = False) -> Kind:
    return Kind(code=code, title=title, about=about, places=places, steps=steps(), bench=bench)


KINDS: dict[str, Kind] = {
    one.code: one
    for one in (
        _kind(
            "ring_and_pinion",
            say("Ring and pinion"),
            say("A new gear set, or the used one set back as found."),
            AXLES,
            _ring_and_pinion,
            bench=True,
        ),
        _kind("pinion_seal", say("Pinion seal"), say("Oil at the pinion flange, bearings sound."), AXLES, _pinion_seal),
        _kind("third_member", say("Third member exchange"), say("A removable carrier for a ready-built one."), AXLES, _third_member),
        _kind(
            "final_drive",
            say("Final drive strip-down"),
            say("A small or independent final drive with side covers."),
            AXLES,
            _final_drive,
            bench=True,
        ),
        _kind("differential", say("Differential replaced"), say("Another differential, the same ratio."), AXLES, _differential, bench=True),
        _kind("clutch_packs", say("Clutch packs"), say("A limited slip that slips or chatters."), AXLES, _clutch_packs),
        _kind("locker", say("Locker in place of the spider gears"), say("Both wheels driven, in the same carrier."), AXLES, _locker),
        _kind(
            "wheel_bearings", say("Axle shaft and hub bearings and seals"), say("Play, noise or oil at a wheel."), AXLES, _wheel_bearings
        ),
        _kind("retention", say("Axle shaft retention changed"), say("Clip-held shafts become bolted."), AXLES, _retention),
        _kind("half_shafts", say("Half shafts and drive flanges"), say("Shafts to independent wheels."), AXLES, _half_shafts),
        _kind("joint", say("Propshaft joint"), say("A knock, play or rust dust at a joint."), SHAFTS, _joint),
        _kind(
            "shaft_made",
            say("Propshaft made or altered"),
            say("Another length, another tube, a centre bearing moved."),
            SHAFTS,
            _shaft_made,
        ),
        _kind("transfer_output", say("Transfer case output"), say("Play or oil at an output."), ("transfer_case",), _transfer_output),
        _kind(
            "flange_surface",
            say("Seal surface on a flange"),
            say("A groove under the seal; bearings sound."),
            (*AXLES, "transfer_case"),
            _flange_surface,
        ),
        _kind("oil_service", say("Oil service"), say("Oil, plugs and level."), (*AXLES, "transfer_case", "gearbox"), _oil_service),
        _kind("strip_and_report", say("Strip and report"), say("Open it, find it, quote it."), AXLES, _strip_and_report),
        _kind("vibration", say("Vibration diagnosis"), say("Something shakes in a band of speed."), ANYWHERE, _vibration),
        _kind("gear_ratio", say("Gear ratio for tyres and use"), say("The gearing does not suit tyres or use."), AXLES, _gear_ratio),
        _kind("speedometer", say("Speedometer correction"), say("It shows the wrong speed."), ("vehicle",), _speedometer),
    )
}
"""In the order in which a workshop books them."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Complaint:
    """What is complained of: the words that hint at it, and the kinds of work that it points at, likeliest first."""

    title: Said
    hints: tuple[str, ...]
    kinds: tuple[str, ...]


COMPLAINTS = (
    Complaint(title=say("Whine"), hints=("whine", "howl", "hum", "sing"), kinds=("strip_and_report", "ring_and_pinion")),
    Complaint(
        title=say("Rumble that follows road speed"), hints=("rumbl", "growl", "roar", "drone"), kinds=("vibration", "wheel_bearings")
    ),
    Complaint(title=say("Clunk on take-up"), hints=("clunk", "clonk", "knock", "bang"), kinds=("joint", "strip_and_report")),
    Complaint(title=say("Vibration in a band of speed"), hints=("vibrat", "shak", "shudder", "wobbl"), kinds=("vibration",)),
    Complaint(title=say("One wheel spins"), hints=("spins", "no grip", "slips"), kinds=("clutch_packs", "differential", "locker")),
    Complaint(title=say("Chatter in tight turns"), hints=("chatter", "judder", "tight turn"), kinds=("oil_service", "clutch_packs")),
    Complaint(
        title=say("Oil leak"),
        hints=("leak", "drip", "weep", "oil at", "wet"),
        kinds=("pinion_seal", "wheel_bearings", "transfer_output", "flange_surface"),
    ),
    Complaint(title=say("Play at a wheel"), hints=("wheel play", "play at", "loose wheel"), kinds=("wheel_bearings",)),
    Complaint(
        title=say("Gearing does not suit the tyres or the use"),
        hints=("gearing", "ratio", "slow on", "tyre", "taller", "speedometer"),
        kinds=("gear_ratio", "speedometer"),
    ),
)
"""The person decides; this only says where to begin."""


def complaint_kinds(text: str) -> list[str]:
    """Kinds that a complaint in somebody's own words points at, likeliest first."""
    words = text.casefold()
    pointed = [one.kinds for one in COMPLAINTS if any(hint in words for hint in one.hints)]
    return list(dict.fromkeys(code for kinds in pointed for code in kinds))
