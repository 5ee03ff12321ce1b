import json

from django.core.management.base import BaseCommand

from whole_workshop import witness


class Command(BaseCommand):
    help = "Name this moment in the database's log, and say what it holds: JSON on standard output."
    requires_system_checks = []

    def handle(self, *args: object, **options: object) -> None:
        self.stdout.write(json.dumps(witness.take()))
