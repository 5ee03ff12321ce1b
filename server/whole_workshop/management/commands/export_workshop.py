from pathlib import Path

from django.core.management.base import BaseCommand, CommandError, CommandParser

from whole_workshop.export import write_workshop


class Command(BaseCommand):
    help = "Write the whole workshop as one zip of open files."
    requires_system_checks = []

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: object, file: Path, **options: object) -> None:
        if file.exists():
            raise CommandError(f"{file} is there already.")
        half = file.with_name(file.name + ".half")
        half.touch(mode=0o600)
        try:
            with half.open("wb") as to:
                manifest = write_workshop(to)
            half.rename(file)
        finally:
            half.unlink(missing_ok=True)
        rows = sum(count for count, _ in manifest["tables"].values())
        self.stdout.write(f"{file}: {rows} rows of {len(manifest['tables'])} tables. Keep it safe: it holds every customer's data.")
