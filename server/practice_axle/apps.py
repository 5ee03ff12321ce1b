from django.apps import AppConfig


class PracticeAxleConfig(AppConfig):
    """Place of the simulated axle for practice."""

    name = "practice_axle"
    verbose_name = "Practice axle"
