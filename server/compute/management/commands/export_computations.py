import json
from pathlib import Path

from django.core.management.base import BaseCommand, CommandParser

from compute.document import computations


class Command(BaseCommand):
    help = "Write the OpenAPI document of every computation."
    requires_system_checks = []

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--output", required=True)

    def handle(self, *args: object, **options: str) -> None:
        text = json.dumps(computations(), indent=1, sort_keys=True, ensure_ascii=False)
        Path(options["output"]).write_text(text + "\n", encoding="utf-8")
