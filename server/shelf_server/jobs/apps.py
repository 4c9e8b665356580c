"""The Django application of long work."""

from django.apps import AppConfig


class JobsConfig(AppConfig):
    """Jobs and their parts; what a worker does stands in `tasks`, where procrastinate looks for it."""

    name = "shelf_server.jobs"
    label = "jobs"
