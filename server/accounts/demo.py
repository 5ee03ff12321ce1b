"""The made-up people of the demo workshop. Their logins exist in the demo only, which listens on this machine alone."""

from __future__ import annotations

from dataclasses import dataclass

from django.contrib.auth.hashers import make_password

from accounts.models import LengthUnit, Role, Shop, User

PASSWORD = "amber-demo-bench"


@dataclass(frozen=True)
class Person:
    username: str
    display_name: str
    role: str


PEOPLE = [
    Person("isla", "Isla Moray", Role.TECHNICIAN),
    Person("tam", "Tam Birsay", Role.TECHNICIAN),
    Person("greta", "Greta Fell", Role.FOREMAN),
    Person("callum", "Callum Voe", Role.COUNTER),
    Person("visitor", "A Visitor", Role.READ_ONLY),
]
_IN_THOU = {"tam"}


def load() -> dict[str, User]:
    """Make the shop and its people; what is there already stays."""
    shop = Shop.get()
    shop.name, shop.is_demo = "Skerrow Island Transport Workshop", True
    shop.save(update_fields=["name", "is_demo"])
    found = {}
    shared = make_password(PASSWORD)  # public anyway, so that one costly hash does for all
    for person in PEOPLE:
        unit = LengthUnit.THOU if person.username in _IN_THOU else LengthUnit.HUNDREDTHS
        made = {"password": shared, "display_name": person.display_name, "role": person.role, "length_unit": unit}
        found[person.username] = User.objects.get_or_create(username=person.username, defaults=made)[0]
    return found
