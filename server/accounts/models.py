"""Who works here, and the shop's own settings."""

from __future__ import annotations

from django.contrib.auth.models import AbstractUser
from django.db import models

from shared.models import one_of


class Role(models.TextChoices):
    TECHNICIAN = "technician", "Technician"
    FOREMAN = "foreman", "Foreman"
    COUNTER = "counter", "Counter"
    READ_ONLY = "read_only", "Read only"


class LengthUnit(models.TextChoices):
    THOU = "thou", "thousandths of an inch"
    HUNDREDTHS = "hundredths_mm", "hundredths of a millimetre"
    MM = "mm", "millimetres"


class TorqueUnit(models.TextChoices):
    NM = "nm", "newton-metres"
    IN_LB = "inlb", "pound-inches"


class Theme(models.TextChoices):
    BAY = "bay", "Bay (light)"
    PIT = "pit", "Pit (dark)"


class User(AbstractUser):
    """A person with a role, and the units and theme they work in."""

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


class Shop(models.Model):
    """The one row of the shop's settings."""

    id = models.PositiveSmallIntegerField(primary_key=True, default=1)
    name = models.CharField(max_length=120, default="Workshop")
    foreman_signs = models.BooleanField(default=True, help_text="Only a foreman signs off, and never the one who measured.")
    is_demo = models.BooleanField(default=False)
    last_job_number = models.PositiveIntegerField(default=0)

    class Meta:
        constraints = [models.CheckConstraint(condition=models.Q(id=1), name="shop_is_one_row")]

    def __str__(self) -> str:
        return self.name

    @classmethod
    def get(cls) -> Shop:
        """The settings, made on first use."""
        return cls.objects.get_or_create(pk=1)[0]
