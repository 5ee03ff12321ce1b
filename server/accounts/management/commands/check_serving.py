from django.core.management.base import BaseCommand, CommandError
from django.db import OperationalError, ProgrammingError

from accounts.models import Shop


class Command(BaseCommand):
    help = "Refuse to serve a database that holds the demo logins or cannot be reached."
    requires_system_checks = []

    def handle(self, *args: object, **options: object) -> None:
        try:
            demo = Shop.objects.filter(is_demo=True).exists()
        except ProgrammingError:
            return  # not migrated yet
        except OperationalError as wrong:
            raise CommandError(f"DATABASE_URL cannot be reached: {str(wrong).splitlines()[0]}") from None
        if demo:
            raise CommandError("this database holds the demo workshop, whose passwords are public; use another database.")
