from django.apps import AppConfig


class RecordsConfig(AppConfig):
    """The envelope that every write comes in."""

    name = "records"
    verbose_name = "Records"
