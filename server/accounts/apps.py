from django.apps import AppConfig


class AccountsConfig(AppConfig):
    """Who works here, in which role and in which units; and the shop's own settings."""

    name = "accounts"
    verbose_name = "Accounts"
