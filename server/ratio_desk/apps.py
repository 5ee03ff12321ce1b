from django.apps import AppConfig


class RatioDeskConfig(AppConfig):
    """Place of the choice of a ratio for tyre, gearbox and use."""

    name = "ratio_desk"
    verbose_name = "Ratio desk"
