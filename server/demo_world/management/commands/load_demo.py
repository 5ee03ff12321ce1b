from django.conf import settings
from django.core.management.base import BaseCommand, CommandError

from demo_world import world


class Command(BaseCommand):
    help = "Make the demo workshop. Refused outside the demo: its logins are public."

    def handle(self, *args: object, **options: object) -> None:
        if not settings.RELAXED:
            raise CommandError("The demo world is for ./amber demo only: its passwords are printed on the screen.")
        world.load()
        self.stdout.write("The demo world is in place.")
