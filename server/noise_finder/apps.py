from django.apps import AppConfig


class NoiseFinderConfig(AppConfig):
    """Place of the way from what is felt or recorded to the part that makes it."""

    name = "noise_finder"
    verbose_name = "Noise finder"
