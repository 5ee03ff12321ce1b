from django.apps import AppConfig


class FloorConfig(AppConfig):
    """Today's jobs, each with its next action and what it waits for."""

    name = "floor"
    verbose_name = "Floor"
