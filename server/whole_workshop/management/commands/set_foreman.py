import sys

from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import transaction

from accounts.models import Role, User
from accounts.passwords import require_strong
from shared.refusals import Refusal


class Command(BaseCommand):
    help = "A foreman's login, made or given another password; the password comes on standard input and is never printed."
    requires_system_checks = []

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("username")
        parser.add_argument("--name", default="")
        parser.add_argument("--organisation", action="store_true", help="looks after every workshop of the installation")

    @transaction.atomic
    def handle(self, *args: object, username: str, name: str, organisation: bool, **options: object) -> None:
        password = sys.stdin.readline().rstrip("\n")
        person = User.objects.filter(username__iexact=username).first() or User(username=username.lower())
        person.display_name = name or person.display_name or username
        person.role, person.is_active = Role.FOREMAN, True
        person.organisation = person.organisation or organisation
        try:
            require_strong(password, person, field="password")
        except Refusal as weak:
            raise CommandError(weak.message.told()) from None
        person.set_password(password)
        person.save()
        self.stdout.write(f"{person.display_name} signs in as {person.username}.")
