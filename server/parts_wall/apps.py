from django.apps import AppConfig


class PartsWallConfig(AppConfig):
    """Place of teardown marks, stack orders, findings and decisions."""

    name = "parts_wall"
    verbose_name = "Parts wall"
