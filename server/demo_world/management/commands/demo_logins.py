from django.core.management.base import BaseCommand

from accounts import demo
from accounts.models import Role


class Command(BaseCommand):
    help = "Print the demo logins."

    def handle(self, *args: object, **options: object) -> None:
        self.stdout.write(f"  Demo logins, password {demo.PASSWORD}")
        for person in demo.PEOPLE:
            self.stdout.write(f"    {person.username:<9} {person.display_name}, {Role(person.role).label.lower()}")
