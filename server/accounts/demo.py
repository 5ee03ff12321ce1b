"""The made-up people of the demo workshop. Their logins exist in the demo only, which listens on this machine alone."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from django.contrib.auth.hashers import make_password

from accounts.models import LengthUnit, Role, Shop, User
from shared.scope import in_shop

PASSWORD = "amber-demo-bench"


@dataclass(frozen=True)
class Person:
    username: str
    display_name: str
    role: str
    where: str = ""
    """Where they work, when it is not the first workshop."""


PEOPLE = [
    Person("isla", "Isla Moray", Role.TECHNICIAN),
    Person("tam", "Tam Birsay", Role.TECHNICIAN),
    Person("greta", "Greta Fell", Role.FOREMAN),
    Person("callum", "Callum Voe", Role.COUNTER),
    Person("visitor", "A Visitor", Role.READ_ONLY),
]
SECOND = "North Pier Boatyard"
NEIGHBOURS = [
    Person("edda", "Edda Quoy", Role.FOREMAN, SECOND),
    Person("runa", "Runa Sandwick", Role.TECHNICIAN, SECOND),
    Person("halla", "Halla Vestness", Role.FOREMAN, "both workshops"),
]
"""The second workshop's people, and who looks after both."""
_IN_THOU = {"tam"}


def load() -> dict[str, User]:
    """Make the shop and its people; what is there already stays."""
    shop = Shop.get()
    shop.name, shop.is_demo = "Skerrow Island Transport Workshop", True
    shop.save(update_fields=["name", "is_demo"])
    return _logins(PEOPLE)


def load_second() -> tuple[Shop, dict[str, User]]:
    """Make the second workshop, its people, and who looks after both; what is there already stays."""
    shop = Shop.objects.get_or_create(pk=2, defaults={"name": SECOND, "is_demo": True})[0]
    with in_shop(shop.pk):
        found = _logins([one for one in NEIGHBOURS if one.where == SECOND])
    found |= _logins([one for one in NEIGHBOURS if one.where != SECOND], organisation=True)
    return shop, found


def there() -> list[Person]:
    """Whoever can sign in to this demo."""
    known = set(User.objects.values_list("username", flat=True))
    return [one for one in [*PEOPLE, *NEIGHBOURS] if one.username in known]


def _logins(people: list[Person], **more: Any) -> dict[str, User]:
    found = {}
    shared = make_password(PASSWORD)  # public anyway, so that one costly hash does for all
    for person in people:
        unit = LengthUnit.THOU if person.username in _IN_THOU else LengthUnit.HUNDREDTHS
        made = {"password": shared, "display_name": person.display_name, "role": person.role, "length_unit": unit, **more}
        found[person.username] = User.objects.get_or_create(username=person.username, defaults=made)[0]
    return found
