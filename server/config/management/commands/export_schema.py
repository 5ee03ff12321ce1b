import json
from pathlib import Path

from django.core.management.base import BaseCommand, CommandParser


class Command(BaseCommand):
    help = "Write the OpenAPI document of the application."
    requires_system_checks = []

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--output", required=True)

    def handle(self, *args: object, **options: str) -> None:
        from config.openapi import document

        text = json.dumps(document(), indent=1, sort_keys=True, ensure_ascii=False)
        Path(options["output"]).write_text(text + "\n", encoding="utf-8")
