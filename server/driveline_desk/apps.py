from django.apps import AppConfig


class DrivelineDeskConfig(AppConfig):
    """Place of angles, phasing, length, slip, tube and critical speed."""

    name = "driveline_desk"
    verbose_name = "Driveline desk"

    def ready(self) -> None:
        """Answer for the steps of the run sheet that are this area's own."""
        from driveline_desk.checks import register_checks

        register_checks()
