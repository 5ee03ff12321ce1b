"""Terms of the trade: what each is called here and elsewhere, what it is, where it is met. A word with several meanings finds them all."""

from __future__ import annotations

import re
from dataclasses import dataclass

from amber_core.words.said import Said, say


@dataclass(frozen=True, slots=True, kw_only=True)
class Term:
    """A term: its fixed code, the name used here, what else people call it, what it is, where it is met, and the drawing that shows it."""

    code: str
    name: Said
    also: list[Said]
    meaning: Said
    where: Said
    drawing: str


def _term(code: str, name: Said, also: list[Said], meaning: Said, where: Said, drawing: str = "") -> Term:
    return Term(code=code, name=name, also=also, meaning=meaning, where=where, drawing=drawing or code)


_BENCH, _DRIVELINE, _STEPS = say("Set-up bench"), say("Driveline desk"), say("Run sheet")
_RATIOS, _NOISE = say("Ratio desk"), say("Noise finder")

TERMS: list[Term] = [
    _term(
        "ring_gear",
        say("ring gear"),
        [say("crown wheel")],
        say("The large gear that the pinion drives, bolted to the carrier."),
        _BENCH,
        "gear_set",
    ),
    _term(
        "pinion",
        say("pinion"),
        [say("drive pinion"), say("bevel pinion")],
        say("The small gear on the end of the propshaft side that drives the ring gear."),
        _BENCH,
        "gear_set",
    ),
    _term(
        "gear_set",
        say("ring gear and pinion"),
        [say("crown wheel and pinion"), say("CWP"), say("final drive gears"), say("gear set")],
        say("The two gears of an axle, lapped together and only ever fitted as a pair."),
        _BENCH,
    ),
    _term(
        "carrier",
        say("carrier"),
        [say("differential case"), say("diff case"), say("basket")],
        say("The case that holds the ring gear and the spider gears and turns on the side bearings."),
        _STEPS,
    ),
    _term(
        "third_member",
        say("third member"),
        [say("removable carrier"), say("drop-out"), say("nosepiece"), say("pumpkin"), say("diff head"), say("carrier")],
        say("A removable housing with pinion, carrier and ring gear in it, bolted into the axle housing."),
        _STEPS,
        "carrier",
    ),
    _term(
        "spider_gear",
        say("spider gear"),
        [say("planet gear"), say("differential pinion"), say("pinion"), say("spider")],
        say("A small gear on the cross pin, between the two side gears."),
        _STEPS,
        "spider_gears",
    ),
    _term(
        "side_gear",
        say("side gear"),
        [say("sun gear")],
        say("The gear inside the carrier that is splined to an axle shaft."),
        _STEPS,
        "spider_gears",
    ),
    _term(
        "cross_pin",
        say("cross pin"),
        [say("cross shaft"), say("differential pin")],
        say("The pin through the carrier on which the spider gears turn."),
        _STEPS,
        "spider_gears",
    ),
    _term(
        "axle_shaft",
        say("axle shaft"),
        [say("half shaft"), say("axle")],
        say("The shaft from a side gear to a wheel, inside a beam axle."),
        _STEPS,
        "axle",
    ),
    _term(
        "half_shaft",
        say("half shaft"),
        [say("driveshaft"), say("CV shaft"), say("CV axle")],
        say("The jointed shaft from a final drive to a wheel with independent suspension."),
        _STEPS,
        "joint_cv",
    ),
    _term(
        "propshaft",
        say("propshaft"),
        [say("driveshaft"), say("propeller shaft"), say("prop"), say("tailshaft")],
        say("The shaft from the gearbox or transfer case to an axle."),
        _DRIVELINE,
    ),
    _term(
        "universal_joint",
        say("universal joint"),
        [say("UJ"), say("U-joint"), say("Cardan joint")],
        say("A joint of two yokes and a joint cross. At an angle it runs unevenly, twice a turn."),
        _DRIVELINE,
        "joint_cross",
    ),
    _term(
        "joint_cross",
        say("joint cross"),
        [say("spider"), say("trunnion"), say("cross")],
        say("The cross in a universal joint, with a joint cap and needles on each arm."),
        _DRIVELINE,
    ),
    _term(
        "joint_cap",
        say("joint cap"),
        [say("cap"), say("bearing cup"), say("cup")],
        say("The cup with needles on an arm of a joint cross."),
        _DRIVELINE,
        "joint_cross",
    ),
    _term(
        "double_cardan",
        say("double Cardan joint"),
        [say("wide-angle joint"), say("CV joint")],
        say("Two universal joints back to back with a centring ball between them. It runs nearly evenly at an angle."),
        _DRIVELINE,
        "joint_cross",
    ),
    _term(
        "cv_joint",
        say("constant-velocity joint"),
        [say("CV joint"), say("homokinetic joint")],
        say("A joint that runs evenly at any angle it can take."),
        _DRIVELINE,
        "joint_cv",
    ),
    _term(
        "slip_yoke",
        say("slip yoke"),
        [say("sliding yoke"), say("slip joint")],
        say("The splined yoke that lets a propshaft change its length as the axle moves."),
        _DRIVELINE,
    ),
    _term(
        "centre_bearing",
        say("centre bearing"),
        [say("centre support"), say("hanger bearing"), say("carrier bearing")],
        say("The bearing in rubber that holds the middle of a two-piece propshaft."),
        _DRIVELINE,
        "propshaft_two",
    ),
    _term(
        "operating_angle",
        say("operating angle"),
        [say("joint angle"), say("working angle")],
        say("The angle between the two members that a universal joint connects."),
        _DRIVELINE,
        "angles",
    ),
    _term(
        "phasing",
        say("phasing"),
        [say("in phase"), say("out of phase"), say("clocking")],
        say("How the yokes of a propshaft stand to each other. In phase, the unevenness of one joint undoes that of the other."),
        _DRIVELINE,
        "angles",
    ),
    _term(
        "equivalent_angle",
        say("equivalent angle"),
        [say("residual angle")],
        say("The angle of the one universal joint that would run as unevenly as the whole driveline."),
        _DRIVELINE,
        "angles",
    ),
    _term(
        "side_bearing",
        say("side bearing"),
        [say("carrier bearing"), say("differential bearing")],
        say("One of the two bearings on which the carrier turns."),
        _BENCH,
        "bearing",
    ),
    _term(
        "pinion_bearing",
        say("pinion bearing"),
        [say("inner pinion bearing"), say("outer pinion bearing")],
        say("One of the two bearings of the pinion: the inner next to the head, the outer next to the flange."),
        _BENCH,
        "bearing",
    ),
    _term(
        "cone",
        say("cone"),
        [say("inner race")],
        say("The inner part of a taper roller bearing, with its rollers."),
        _BENCH,
        "bearing",
    ),
    _term(
        "cup",
        say("cup"),
        [say("outer race"), say("track")],
        say("The outer ring of a taper roller bearing, pressed into the axle housing."),
        _BENCH,
        "bearing",
    ),
    _term(
        "bearing_cap",
        say("bearing cap"),
        [say("cap"), say("main cap")],
        say("The half bore that is bolted over a side bearing. It fits one side and one way up."),
        _BENCH,
        "bearing_cap",
    ),
    _term(
        "backlash",
        say("backlash"),
        [say("lash"), say("play")],
        say("How far the ring gear moves at a tooth while the pinion is held still."),
        _BENCH,
    ),
    _term(
        "variation",
        say("variation"),
        [say("spread")],
        say("The greatest less the least backlash round the ring gear."),
        _BENCH,
        "backlash",
    ),
    _term(
        "contact_pattern",
        say("contact pattern"),
        [say("tooth contact"), say("paint pattern"), say("bearing pattern")],
        say("The patch that painted teeth show where they touch. Its middle says where the gears stand."),
        _BENCH,
        "flank",
    ),
    _term(
        "toe",
        say("toe"),
        [say("inner end")],
        say("The end of a ring gear tooth nearest to the middle of the gear."),
        _BENCH,
        "flank",
    ),
    _term(
        "heel",
        say("heel"),
        [say("outer end")],
        say("The end of a ring gear tooth at the outside of the gear."),
        _BENCH,
        "flank",
    ),
    _term(
        "face",
        say("face"),
        [say("tip"), say("top land")],
        say("The upper part of a tooth, toward its tip."),
        _BENCH,
        "flank",
    ),
    _term(
        "flank_of_a_tooth",
        say("flank"),
        [say("root side"), say("tooth side")],
        say("The side of a tooth; the lower part, toward the root, where it stands beside the face."),
        _BENCH,
        "flank",
    ),
    _term(
        "drive_side",
        say("drive side"),
        [say("drive flank")],
        say("The flank that is loaded when the engine drives the vehicle."),
        _BENCH,
        "flank",
    ),
    _term(
        "coast_side",
        say("coast side"),
        [say("coast flank"), say("overrun side")],
        say("The flank that is loaded when the vehicle drives the engine."),
        _BENCH,
        "flank",
    ),
    _term(
        "pinion_depth",
        say("pinion depth"),
        [say("head depth"), say("mounting distance"), say("cone distance")],
        say("How far the pinion head is from the ring gear axis. Too shallow means too far away."),
        _BENCH,
        "depth",
    ),
    _term(
        "depth_shim",
        say("depth shim"),
        [say("pinion shim"), say("head shim")],
        say("The shim that sets the pinion depth."),
        _BENCH,
        "depth",
    ),
    _term(
        "preload",
        say("preload"),
        [say("pre-load"), say("bearing preload")],
        say("How much the bearings are pressed together beyond no play; read as rotating torque."),
        _BENCH,
        "sleeve",
    ),
    _term(
        "rotating_torque",
        say("rotating torque"),
        [say("turning torque"), say("drag"), say("pinion preload"), say("starting torque")],
        say("The torque that keeps the pinion turning steadily. Starting it takes more: that is breakaway torque."),
        _BENCH,
        "sleeve",
    ),
    _term(
        "crush_sleeve",
        say("crush sleeve"),
        [say("collapsible spacer"), say("crush collar")],
        say("A sleeve between the pinion bearings that is crushed by the pinion nut to set the preload. It only goes one way."),
        _BENCH,
        "sleeve",
    ),
    _term(
        "solid_spacer",
        say("solid spacer"),
        [say("crush sleeve eliminator")],
        say("A rigid spacer with shims in the place of a crush sleeve."),
        _BENCH,
        "sleeve",
    ),
    _term(
        "flange",
        say("flange"),
        [say("companion flange"), say("yoke"), say("pinion flange")],
        say("What the propshaft is bolted to, on the splines of the pinion."),
        _STEPS,
        "sleeve",
    ),
    _term(
        "slinger",
        say("slinger"),
        [say("oil thrower")],
        say("The thin disc on the pinion that throws oil away from the seal. Its thickness counts for the depth."),
        _BENCH,
        "sleeve",
    ),
    _term(
        "end_play",
        say("end play"),
        [say("end float")],
        say("How far a shaft moves along its own axis."),
        _BENCH,
        "sleeve",
    ),
    _term(
        "runout",
        say("runout"),
        [say("run-out"), say("TIR"), say("wobble")],
        say("How much a dial indicator moves in one turn of a part."),
        _BENCH,
        "dial",
    ),
    _term(
        "dial_indicator",
        say("dial indicator"),
        [say("dial gauge"), say("DTI"), say("clock")],
        say("The instrument with a plunger that reads hundredths or thousandths."),
        _BENCH,
        "dial",
    ),
    _term(
        "marking_compound",
        say("marking compound"),
        [say("engineer's blue"), say("gear paint")],
        say("The paint that shows where teeth touch."),
        _BENCH,
        "flank",
    ),
    _term(
        "case_spreader",
        say("case spreader"),
        [say("housing spreader")],
        say("The tool that opens an axle housing a little so that the carrier with its preload goes in."),
        _STEPS,
        "bearing_cap",
    ),
    _term(
        "set_up_bearing",
        say("set-up bearing"),
        [say("dummy bearing"), say("slip-fit bearing")],
        say("A bearing bored out to slide on, so that shims can be changed without a press."),
        _BENCH,
        "bearing",
    ),
    _term(
        "overrun",
        say("overrun"),
        [say("coast"), say("deceleration")],
        say("Driving with the foot off the pedal, the vehicle turning the engine."),
        _NOISE,
        "pedal",
    ),
    _term(
        "floating",
        say("floating"),
        [say("float"), say("neutral throttle")],
        say("Driving with so little pedal that the gears are loaded neither way."),
        _NOISE,
        "pedal",
    ),
    _term(
        "bump_and_droop",
        say("bump and droop"),
        [say("jounce"), say("rebound")],
        say("The axle pushed up and hanging down, as far as the suspension lets it."),
        _DRIVELINE,
        "angles",
    ),
    _term(
        "transfer_case",
        say("transfer case"),
        [say("transfer box")],
        say("The box behind the gearbox that drives both axles, often with a low range."),
        _RATIOS,
        "transfer",
    ),
    _term(
        "gearbox",
        say("gearbox"),
        [say("transmission")],
        say("The box with the gears between the clutch and the propshaft."),
        _RATIOS,
        "gearbox",
    ),
    _term(
        "reluctor_ring",
        say("reluctor ring"),
        [say("tone ring"), say("ABS ring"), say("speed ring")],
        say("The toothed ring that the wheel-speed sensor counts."),
        _STEPS,
        "dial",
    ),
    _term(
        "breather",
        say("breather"),
        [say("vent")],
        say("The valve that lets the air of a warm axle out."),
        _STEPS,
        "breather",
    ),
    _term(
        "circlip",
        say("circlip"),
        [say("snap ring"), say("C-clip"), say("retaining ring")],
        say("A sprung ring in a groove that holds a part on a shaft or in a bore."),
        _STEPS,
        "joint_cross",
    ),
    _term(
        "axle_housing",
        say("axle housing"),
        [say("axle casing"), say("banjo"), say("beam axle"), say("live axle"), say("solid axle"), say("rigid axle")],
        say("The housing that holds the gears of an axle and carries the wheels at its ends."),
        _STEPS,
        "axle",
    ),
    _term(
        "axle_stand",
        say("axle stand"),
        [say("jack stand")],
        say("What holds a vehicle up while somebody works under it. A jack alone never does."),
        _STEPS,
        "stand",
    ),
]

_SPELT = [("tire", "tyre"), ("center", "centre"), ("gage", "gauge"), ("vise", "vice"), ("spanner", "wrench"), ("threadlock", "thread lock")]


def _plain(text: str) -> str:
    """Letters alone, in one spelling: a hyphen, a space or a country makes no difference."""
    found = text.casefold()
    for theirs, ours in _SPELT:
        found = found.replace(theirs, ours)
    return re.sub(r"[^a-z0-9]", "", found)


def find_terms(text: str) -> list[Term]:
    """Every term that a word could mean, the closest first.

    Parameters
    ----------
    text : str
        As it is typed, in either spelling; a part of a name is enough.

    Examples
    --------
    >>> [term.code for term in find_terms("driveshaft")]
    ['half_shaft', 'propshaft']
    """
    wanted = _plain(text)
    if not wanted:
        return []
    ranked = []
    for place, term in enumerate(TERMS):
        names = [_plain(term.name), *map(_plain, term.also)]
        if wanted in names:
            ranked.append((0 if names[0] == wanted else 1, place, term))
        elif any(name.startswith(wanted) for name in names):
            ranked.append((2, place, term))
        elif any(wanted in name for name in names):
            ranked.append((3, place, term))
    return [term for _, _, term in sorted(ranked, key=lambda one: one[:2])]
