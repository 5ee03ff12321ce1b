from django.apps import AppConfig
from django.db.backends.signals import connection_created


class RecordsConfig(AppConfig):
    """The envelope that every write comes in."""

    name = "records"
    verbose_name = "Records"

    def ready(self) -> None:
        from records.replicated import listen

        connection_created.connect(listen, dispatch_uid="records.replicated")
