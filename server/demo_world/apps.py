from django.apps import AppConfig


class DemoWorldConfig(AppConfig):
    """The made-up workshop that ships with the application."""

    name = "demo_world"
    verbose_name = "Demo world"
