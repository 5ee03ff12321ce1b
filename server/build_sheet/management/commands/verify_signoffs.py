from django.core.management.base import BaseCommand, CommandError

from build_sheet.verifying import verify


class Command(BaseCommand):
    help = "Work every sign-off's hash out again, and hold its document against the records that it was made from."
    requires_system_checks = []

    def handle(self, *args: object, **options: object) -> None:
        found = list(verify())
        for one in found:
            self.stdout.write(one.line())
        bad = sum(not one.holds for one in found)
        if bad:
            raise CommandError(f"{bad} of {len(found)} sign-offs do not hold.")
        self.stdout.write(f"{len(found)} sign-offs hold.")
