from django.apps import AppConfig


class VehiclesConfig(AppConfig):
    """Vehicles, what is in them, and how far they have run."""

    name = "vehicles"
    verbose_name = "Vehicles"
