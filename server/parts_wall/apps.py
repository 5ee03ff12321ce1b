from django.apps import AppConfig


class PartsWallConfig(AppConfig):
    """What was taken off, what was found on it, what has to be got, and the way back."""

    name = "parts_wall"
    verbose_name = "Parts wall"

    def ready(self) -> None:
        """Hold the steps of the run sheet that close over parts."""
        from parts_wall.checks import register_checks

        register_checks()
