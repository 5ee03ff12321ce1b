"""A rear axle in parts on the wall: what came off, a broken tooth with a piece missing, what has to be got, a quote that is out."""

from __future__ import annotations

import io
from datetime import timedelta
from math import cos, pi, sin
from typing import TYPE_CHECKING, Any
from uuid import uuid4

from django.utils import timezone
from PIL import Image, ImageDraw, ImageFilter

from parts_wall.models import Act, PartNeed, PartPhoto, PartRecord
from parts_wall.quotes import make_link
from parts_wall.wall import find_wall
from records.writing import Writing
from shared.pictures import shrunk_picture

if TYPE_CHECKING:
    from accounts.models import User
    from demo_world.world import JobBuilder

_THURSDAY = 3
_BENCH, _STEEL, _DARK, _OIL = (92, 88, 80), (176, 178, 180), (58, 60, 63), (66, 48, 24)


def strip(builder: JobBuilder, callum: User) -> JobBuilder:
    """Take off what a strip and report takes off, and decide on it."""
    wall = find_wall(builder.work.pk)
    bags = {"ringbolt": "1", "sshim.ring": "2", "sshim.far": "3", "pnut": "4", "pwash": "4", "magnet": "5", "capbolt.ring": "6"}
    said: dict[str, dict[str, Any]] = {
        "sshim.ring": {"stack": [_shim(0.50), _shim(0.34, damaged=True), _shim(3.80)], "note": "thin one broken in two"},
        "sshim.far": {"stack": [_shim(4.20), _shim(0.25)]},
        "dshim": {"stack": [_shim(0.80)]},
        "sling": {"facing": "dished side to the seal"},
        "cap.ring": {"facing": "arrow to the cover"},
        "cap.far": {"facing": "arrow to the cover"},
        "ringbolt": {"counted": 10},
        "wheelnut.left": {"counted": 5},
        "wheelnut.right": {"counted": 5},
    }
    for key in wall.planned:
        place = wall.assembly.places[key]
        fields = {"mark": str(place.mark) if place.part.mark in ("dots", "letter") else "", "bag": bags.get(key, ""), **said.get(key, {})}
        side = key.partition(".")[2]
        PartRecord.objects.create(work=builder.work, key=key, act=Act.OFF, side=side, **fields, **builder.record(0.3, 1.2))
    broken = _photo(builder, "ring", _ring(broken=True))
    _photo(builder, "cover", _cover())
    _photo(builder, "sshim.ring", _shims())
    worn = _photo(builder, "icone", _cone())
    ring = {"shape": "ring", "x": 0.75, "y": 0.29, "to_x": 0.83, "to_y": 0.29}
    _look(
        builder,
        "ring",
        ["chip"],
        "replace",
        photo=broken,
        drawn=[ring],
        measured="Backlash as found 0.17 mm",
        ways=_ways(("replace as a gear set", 330, 41500, 10), ("used gear set from stock", 330, 18000, 0)),
        way="replace as a gear set",
        note="Heel of one tooth broken away",
    )
    PartRecord.objects.create(
        work=builder.work, key="ring", act=Act.PIECES, missing=1, note="two of three pieces found", **builder.record()
    )
    _look(builder, "pinion", ["scoring"], "replace", note="goes with the ring gear")
    _look(
        builder,
        "icone",
        ["spalling"],
        "replace",
        photo=worn,
        drawn=[{"shape": "arrow", "x": 0.2, "y": 0.15, "to_x": 0.42, "to_y": 0.4}],
        ways=_ways(("cone and cup together", 25, 3850, 2)),
        way="cone and cup together",
    )
    _look(builder, "sshim.ring", ["broken"], "replace", note="stack is no starting point")
    for key in ("cap.ring", "cap.far", "carr", "scup.ring", "scup.far"):
        _look(builder, key, [], "good")
    for key, count, price in (("pseal", 1, 1240), ("gask", 1, 690), ("pnut", 1, 480), ("crush", 1, 560), ("ringbolt", 10, 210)):
        PartNeed.objects.create(
            work=builder.work,
            line=uuid4(),
            key=key,
            name=str(wall.name_of(key)),
            count=count,
            price=price,
            supplier="Halden Parts Counter",
            state="asked" if key == "pseal" else "wanted",
            **builder.record(0.2, 0.5),
        )
    intro = "The whine comes from a broken tooth. We have kept every part for you to see."
    make_link(Writing.of(callum), work_id=builder.work.pk, hourly="62", tax_pct=20.0, intro=intro, keys=["ring", "icone"], days=14)
    return builder


def order(builder: JobBuilder, *names: str) -> None:
    """Parts that come with the next boat, which is on a Thursday."""
    today = timezone.localdate()
    boat = today + timedelta(days=(_THURSDAY - today.weekday()) % 7 or 7)
    for name in names:
        PartNeed.objects.create(
            work=builder.work,
            line=uuid4(),
            name=name,
            supplier="Halden Parts Counter",
            state="ordered",
            due_on=boat,
            **builder.record(0.2, 0.5),
        )


def _shim(mm: float, *, damaged: bool = False) -> dict[str, Any]:
    return {"entered": f"{mm:.2f} mm", "mm": mm, "damaged": damaged}


def _ways(*ways: tuple[str, int, int, int]) -> dict[str, Any]:
    told = [
        {"name": name, "minutes": minutes, "parts": [{"name": "Parts", "price": price, "count": 1}], "wait_days": days}
        for name, minutes, price, days in ways
    ]
    return {"hourly": 6200, "ways": told}


def _look(builder: JobBuilder, key: str, findings: list[str], decision: str, **more: Any) -> None:
    PartRecord.objects.create(work=builder.work, key=key, act=Act.LOOK, findings=findings, decision=decision, **more, **builder.record())


def _photo(builder: JobBuilder, key: str, image: Image.Image) -> Any:
    out = io.BytesIO()
    image.filter(ImageFilter.GaussianBlur(1.1)).save(out, "JPEG", quality=88)
    picture = shrunk_picture(out.getvalue())
    kept = PartPhoto.objects.create(work=builder.work, key=key, content=picture.content, small=picture.small, **builder.record(0.1, 0.3))
    return kept.client_id


def _sheet() -> tuple[Image.Image, ImageDraw.ImageDraw]:
    """A bench top, lit from one side."""
    image = Image.new("RGB", (960, 640), _BENCH)
    draw = ImageDraw.Draw(image)
    for x in range(0, 960, 6):
        shade = tuple(min(255, int(one * (0.75 + 0.45 * x / 960))) for one in _BENCH)
        draw.rectangle((x, 0, x + 6, 640), fill=shade)
    return image, draw


def _ring(*, broken: bool) -> Image.Image:
    image, draw = _sheet()
    draw.ellipse((140, -40, 860, 680), fill=_DARK)
    draw.ellipse((330, 150, 670, 490), fill=_STEEL)
    draw.ellipse((380, 200, 620, 440), fill=_DARK)
    for number in range(41):
        turn = 2 * pi * number / 41
        inner = [(500 + 195 * cos(turn + d), 320 + 195 * sin(turn + d)) for d in (0.0, 0.075)]
        reach = 268 if broken and number == 36 else 345
        outer = [(500 + reach * cos(turn + 0.22 + d), 320 + reach * sin(turn + 0.22 + d)) for d in (0.075, 0.0)]
        draw.polygon([*inner, *outer], fill=(205, 206, 206) if broken and number == 36 else _STEEL, outline=_DARK)
    return image


def _cover() -> Image.Image:
    image, draw = _sheet()
    draw.rounded_rectangle((220, 90, 740, 560), 190, fill=_DARK, outline=_STEEL, width=8)
    draw.rounded_rectangle((300, 160, 660, 490), 140, fill=_OIL)
    for number in range(10):
        turn = 2 * pi * number / 10
        x, y = 480 + 238 * cos(turn), 325 + 214 * sin(turn)
        draw.ellipse((x - 11, y - 11, x + 11, y + 11), fill=_BENCH, outline=_STEEL)
    return image


def _shims() -> Image.Image:
    image, draw = _sheet()
    for number, wide in enumerate((60, 14, 22)):
        x = 260 + 170 * number
        draw.ellipse((x, 180, x + 150, 460), fill=_STEEL, outline=_DARK, width=4)
        draw.ellipse((x + wide, 180 + wide * 2, x + 150 - wide, 460 - wide * 2), fill=_BENCH, outline=_DARK, width=3)
    draw.line((430, 300, 590, 345), fill=_BENCH, width=14)
    return image


def _cone() -> Image.Image:
    image, draw = _sheet()
    draw.polygon([(300, 150), (660, 150), (720, 500), (240, 500)], fill=_STEEL, outline=_DARK)
    for number in range(7):
        x = 285 + 56 * number
        draw.polygon([(x + 22, 190), (x + 58, 190), (x + 62, 460), (x + 10, 460)], fill=(150, 152, 154), outline=_DARK)
    for x, y, size in ((410, 280, 16), (425, 305, 9), (396, 310, 7), (470, 350, 10)):
        draw.ellipse((x, y, x + size, y + size * 0.8), fill=_DARK)
    return image
