from django.apps import AppConfig


class HandOverConfig(AppConfig):
    """What the customer takes home, and what comes due after."""

    name = "hand_over"
    verbose_name = "Hand-over"
