from django.apps import AppConfig


class DrivelineDeskConfig(AppConfig):
    """Place of angles, phasing, length, slip, tube and critical speed."""

    name = "driveline_desk"
    verbose_name = "Driveline desk"
