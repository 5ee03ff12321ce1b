"""Gearboxes and transfer cases of the made-up makers."""

from __future__ import annotations

from stores.models import Gearbox, TransferCase
from vehicles.models import BOTH_DRIVEN, Vehicle

GEARBOXES = [
    ("corrie-c5", "Corrie C5, five-speed", "Corrie", [3.95, 2.19, 1.42, 1.0, 0.82]),
    ("corrie-c6", "Corrie C6, six-speed", "Corrie", [4.21, 2.40, 1.55, 1.16, 0.91, 0.72]),
    ("halden-h6", "Halden H6, heavy six-speed", "Halden", [6.52, 3.71, 2.24, 1.46, 1.0, 0.79]),
    ("ostrel-o5", "Ostrel O5, five-speed", "Ostrel", [3.58, 1.96, 1.30, 0.98, 0.78]),
    ("brannoch-b5", "Brannoch B5, low first", "Brannoch", [4.31, 2.33, 1.44, 1.0, 0.81]),
]
TRANSFER_CASES = [
    ("brannoch-t2", "Brannoch T2, chain", "Brannoch", 1.0, 2.48),
    ("halden-tg", "Halden TG, gear", "Halden", 1.07, 2.05),
]


def load() -> None:
    """Make those that are missing."""
    for code, name, maker, gears in GEARBOXES:
        Gearbox.objects.get_or_create(code=code, defaults={"name": name, "maker": maker, "gears": gears})
    for code, name, maker, high, low in TRANSFER_CASES:
        TransferCase.objects.get_or_create(code=code, defaults={"name": name, "maker": maker, "high": high, "low": low})


def fit() -> None:
    """What is in each vehicle that has no gearbox on record yet, by its maker."""
    for vehicle in Vehicle.objects.filter(gearbox=""):
        maker = vehicle.name.partition(", ")[2].partition(" ")[0]
        box = Gearbox.objects.filter(maker=maker).order_by("code").first()
        case = TransferCase.objects.filter(maker=maker).order_by("code").first()
        if box is not None:
            vehicle.gearbox = box.code
            vehicle.transfer_case = case.code if case and vehicle.layout in BOTH_DRIVEN else ""
            vehicle.save(update_fields=["gearbox", "transfer_case"])
