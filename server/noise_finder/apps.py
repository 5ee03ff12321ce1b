from django.apps import AppConfig


class NoiseFinderConfig(AppConfig):
    """Place of the way from what is felt or recorded to the part that makes it."""

    name = "noise_finder"
    verbose_name = "Noise finder"

    def ready(self) -> None:
        """Answer for the steps of the run sheet that are this area's own."""
        from noise_finder.checks import register_checks

        register_checks()
