from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError

from accounts import demo
from accounts.models import Role
from build_sheet.services import reconstruct_documents
from demo_world import world


class Command(BaseCommand):
    help = "Migrate, make the demo workshop, print its logins. Refused outside the demo: its logins are public."
    requires_system_checks = []  # the tests make them; here they would double the time of a start

    def handle(self, *args: object, **options: object) -> None:
        if not settings.RELAXED:
            raise CommandError("The demo world is for ./amber demo only: its passwords are printed on the screen.")
        call_command("migrate", interactive=False, verbosity=0, skip_checks=True)
        world.load()
        reconstruct_documents()
        self.stdout.write(f"  Demo logins, password {demo.PASSWORD}")
        for person in demo.there():
            where = f", {person.where}" if person.where else ""
            self.stdout.write(f"    {person.username:<9} {person.display_name}, {Role(person.role).label.lower()}{where}")
