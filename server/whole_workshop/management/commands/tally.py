import json

from django.core.management.base import BaseCommand

from whole_workshop.tally import digests, tally


class Command(BaseCommand):
    help = "Count and sum every row; with --rows, hash each row that is written once. JSON on standard output."
    requires_system_checks = []

    def add_arguments(self, parser: object) -> None:
        parser.add_argument("--rows", action="store_true")  # type: ignore[attr-defined]

    def handle(self, *args: object, **options: object) -> None:
        self.stdout.write(json.dumps(digests() if options["rows"] else tally()))
