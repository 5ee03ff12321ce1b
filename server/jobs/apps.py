from django.apps import AppConfig


class JobsConfig(AppConfig):
    """One vehicle's work: the driveline as a map, the gear set, the run sheet."""

    name = "jobs"
    verbose_name = "Job"
