from typing import Any

from django.apps import AppConfig
from django.db.models.signals import post_migrate


class AccountsConfig(AppConfig):
    """Who works here, in which role and in which units; and the shop's own settings."""

    name = "accounts"
    verbose_name = "Accounts"

    def ready(self) -> None:
        post_migrate.connect(_first_shop, sender=self, dispatch_uid="accounts.first_shop")


def _first_shop(sender: object, using: str, **more: Any) -> None:
    """Every database has its first workshop: rows belong to it unless another one is asked for."""
    from accounts.models import Shop

    Shop.objects.using(using).get_or_create(pk=1)
