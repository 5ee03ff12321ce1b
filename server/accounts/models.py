"""Who works here, and the shop's own settings."""

from __future__ import annotations

from typing import ClassVar, Self

from django.contrib.auth.models import AbstractUser
from django.contrib.postgres.fields import ArrayField
from django.db import models

from amber_core.words import say
from shared.models import Record, one_of
from shared.scope import OfShop, shop_now


class Role(models.TextChoices):
    TECHNICIAN = "technician", say("Technician")
    FOREMAN = "foreman", say("Foreman")
    COUNTER = "counter", say("Counter")
    READ_ONLY = "read_only", say("Read only")


class LengthUnit(models.TextChoices):
    THOU = "thou", say("thousandths of an inch")
    HUNDREDTHS = "hundredths_mm", say("hundredths of a millimetre")
    MM = "mm", say("millimetres")


class TorqueUnit(models.TextChoices):
    NM = "nm", say("newton-metres")
    IN_LB = "inlb", say("pound-inches")


class Theme(models.TextChoices):
    BAY = "bay", say("Bay (light)")
    PIT = "pit", say("Pit (dark)")


FIRST_SHOP = 1


class Shop(models.Model):
    """A workshop of the installation: jobs, people, sheets and drawers belong to one. Most installations have one, the first."""

    id = models.PositiveIntegerField(primary_key=True, default=FIRST_SHOP)
    name = models.CharField(max_length=120, default="Workshop")
    is_demo = models.BooleanField(default=False)

    class Meta:
        ordering = ["id"]
        constraints = [models.CheckConstraint(condition=models.Q(id__gte=1), name="shop_numbers_from_one")]

    def __str__(self) -> str:
        return self.name

    @classmethod
    def get(cls) -> Shop:
        """The workshop of now; where every one or none is asked for, the first, made on first use."""
        return cls.objects.filter(pk=own_shop()).first() or cls.objects.get_or_create(pk=FIRST_SHOP)[0]

    @property
    def rule(self) -> ShopRule:
        """The rule in force."""
        return ShopRule.now()


def own_shop() -> int:
    """The workshop that a new row belongs to: the one of now, or the first, which every database has."""
    return shop_now() or FIRST_SHOP


def of_shop() -> models.ForeignKey[Shop, Shop]:
    """The workshop that a row belongs to."""
    return models.ForeignKey(Shop, on_delete=models.PROTECT, default=own_shop, related_name="+")


class User(AbstractUser):
    """A person with a role, and the units and theme they work in. Whoever looks after an organisation of several workshops works in one of
    them, and may look at `looking_at`, or at all of them."""

    shop = of_shop()
    organisation = models.BooleanField(default=False)
    looking_at = models.ForeignKey(Shop, null=True, blank=True, on_delete=models.PROTECT, related_name="+")
    display_name = models.CharField(max_length=120)
    role = models.CharField(max_length=20, choices=Role, default=Role.READ_ONLY)
    length_unit = models.CharField(max_length=20, choices=LengthUnit, default=LengthUnit.HUNDREDTHS)
    torque_unit = models.CharField(max_length=20, choices=TorqueUnit, default=TorqueUnit.NM)
    theme = models.CharField(max_length=10, choices=Theme, default=Theme.BAY)

    class Meta:
        constraints = [
            one_of("role", Role, "user_role_known"),
            one_of("length_unit", LengthUnit, "user_length_unit_known"),
            one_of("torque_unit", TorqueUnit, "user_torque_unit_known"),
            one_of("theme", Theme, "user_theme_known"),
        ]

    def __str__(self) -> str:
        return self.display_name or self.username

    @property
    def works_as(self) -> str:
        """The role that counts: whoever may do everything to the database works as a foreman, under their own name."""
        return Role.FOREMAN if self.is_superuser else self.role

    @property
    def works_in(self) -> int:
        """The workshop that counts just now: one's own, or the one that is looked at."""
        chosen: int | None = self.looking_at_id if self.sees_every_shop else None
        return chosen or self.shop_id or FIRST_SHOP

    @property
    def sees_every_shop(self) -> bool:
        """Whoever looks after the organisation, or the server."""
        return self.organisation or self.is_superuser


USUAL_HOURS = [{"weekday": day, "from": "08:00", "to": "16:30"} for day in range(5)]


class ShopHours(Record):
    """When the shop is open, how many people work, and closing days, every time it was set; the latest counts."""

    shop = of_shop()
    hours = models.JSONField(default=list)
    hands = models.PositiveSmallIntegerField(default=1)
    closed = models.JSONField(default=list, blank=True)

    objects: ClassVar[OfShop[Self]] = OfShop()

    class Meta:
        ordering = ["id"]
        constraints = [models.CheckConstraint(condition=models.Q(hands__gte=1, hands__lte=8), name="shop_hands_sane")]

    def __str__(self) -> str:
        return f"{self.hands} people, {len(self.hours)} openings"

    @classmethod
    def now(cls) -> ShopHours:
        """The hours that count; as installed until somebody sets them."""
        return cls.objects.last() or cls(hours=USUAL_HOURS, hands=2, by_name="as installed")


def _everybody() -> list[str]:
    return list(Role.values)


class ShopRule(Record):
    """The workshop's rules, every time they were set; the latest are in force. `foreman_signs`: only a foreman signs off, and never the one
    who measured. `export_roles`: who may take jobs, lists and results away as files; a foreman always may."""

    shop = of_shop()
    foreman_signs = models.BooleanField()
    export_roles = ArrayField(models.CharField(max_length=20), default=_everybody, blank=True)
    reason = models.CharField(max_length=200, blank=True)

    objects: ClassVar[OfShop[Self]] = OfShop()

    class Meta:
        ordering = ["id"]
        constraints = [
            models.CheckConstraint(condition=models.Q(export_roles__contained_by=list(Role.values)), name="shop_rule_roles_known")
        ]

    def __str__(self) -> str:
        return "a foreman who did not measure signs" if self.foreman_signs else "whoever measured may sign"

    @classmethod
    def now(cls) -> ShopRule:
        """The rules in force; as installed until somebody sets them."""
        return cls.objects.last() or cls(foreman_signs=True, by_name="as installed")


class PersonChange(Record):
    """A login as a foreman made or changed it, each time; the passwords are not in it, only that one was set."""

    person = models.ForeignKey(User, on_delete=models.PROTECT, related_name="changes")
    display_name = models.CharField(max_length=120)
    role = models.CharField(max_length=20, choices=Role)
    active = models.BooleanField()
    password_set = models.BooleanField(default=False)

    class Meta:
        ordering = ["id"]
        constraints = [one_of("role", Role, "person_change_role_known")]

    def __str__(self) -> str:
        return f"{self.display_name}, {self.role}, by {self.by_name}"
