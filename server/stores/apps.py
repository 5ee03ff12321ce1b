from django.apps import AppConfig


class StoresConfig(AppConfig):
    """Axle families with their spec sheets, and the shims in the drawer."""

    name = "stores"
    verbose_name = "Stores"
