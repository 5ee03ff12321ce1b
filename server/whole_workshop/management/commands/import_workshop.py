from pathlib import Path

from django.core.management.base import BaseCommand, CommandError, CommandParser

from shared.refusals import Refusal
from whole_workshop.export import read_workshop


class Command(BaseCommand):
    help = "Take a whole workshop's file into an empty workshop. Everybody needs a new password afterwards."
    requires_system_checks = []

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: object, file: Path, **options: object) -> None:
        try:
            manifest = read_workshop(file)
        except Refusal as wrong:
            raise CommandError(wrong.message.told()) from None
        rows = sum(count for count, _ in manifest["tables"].values())
        self.stdout.write(f"{rows} rows taken in, and every checksum is the file's. Set passwords with ./amber workshop foreman.")
