from django.apps import AppConfig


class RatioDeskConfig(AppConfig):
    """Place of the choice of a ratio for tyre, gearbox and use."""

    name = "ratio_desk"
    verbose_name = "Ratio desk"

    def ready(self) -> None:
        """Answer for the steps of the run sheet that are this area's own."""
        from ratio_desk.checks import register_checks

        register_checks()
