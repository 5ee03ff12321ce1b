from django.apps import AppConfig


class WorkConfig(AppConfig):
    """Pieces of work: kind, sheet, run sheet, what is kept of the desks."""

    name = "work"
    verbose_name = "Pieces of work"
