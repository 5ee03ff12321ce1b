from django.apps import AppConfig


class ComputeConfig(AppConfig):
    """The registry of the core over HTTP."""

    name = "compute"
    verbose_name = "Computations"
