"""The Django application of designs."""

from django.apps import AppConfig


class DesignsConfig(AppConfig):
    """Designs and what belongs to them."""

    name = "shelf_server.designs"
    label = "designs"
