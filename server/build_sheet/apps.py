from django.apps import AppConfig


class BuildSheetConfig(AppConfig):
    """Sign-off, the record handed over, and the open files."""

    name = "build_sheet"
    verbose_name = "Build sheet"
