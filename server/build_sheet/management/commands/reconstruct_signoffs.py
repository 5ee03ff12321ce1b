from django.core.management.base import BaseCommand

from build_sheet.services import reconstruct_documents


class Command(BaseCommand):
    help = "Make documents, once and marked so, for sign-offs that are older than documents are. ./amber serve and ./amber demo do it."
    requires_system_checks = []

    def handle(self, *args: object, **options: object) -> None:
        count = reconstruct_documents()
        if count:
            self.stdout.write(f"{count} sign-offs have a document that was reconstructed from the records.")
