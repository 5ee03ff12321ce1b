from django.apps import AppConfig


class WholeWorkshopConfig(AppConfig):
    """The workshop's records as a whole: counted and summed, taken out as open files, taken in by an empty workshop."""

    name = "whole_workshop"
    verbose_name = "The whole workshop"
