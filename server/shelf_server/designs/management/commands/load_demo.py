"""Makes the demo account and gives it the demo design, once."""

from typing import Any

from django.conf import settings
from django.contrib.auth import get_user_model
from django.core.management.base import BaseCommand, CommandParser

from shelf_core.design.reading import read_design
from shelf_server.designs.actions import create_design
from shelf_server.designs.models import Design, Membership

DEMO_NAME, DEMO_PASSWORD = "mara", "lindmoor-demo"


class Command(BaseCommand):
    """Load the demo where it is missing; what its account has made of it stays."""

    help = __doc__
    requires_system_checks = ()

    def add_arguments(self, parser: CommandParser) -> None:
        """One option."""
        parser.add_argument("--fresh", action="store_true", help="put the demo back as it ships, what was made of it is gone")

    def handle(self, *_args: Any, **options: Any) -> None:
        """Run the command."""
        user, created = get_user_model().objects.get_or_create(username=DEMO_NAME)
        if created:
            user.set_password(DEMO_PASSWORD)
            user.save()
        if options["fresh"]:
            Design.objects.filter(memberships__user=user).delete()
        if not Membership.objects.filter(user=user).exists():
            create_design(user, read_design((settings.BASE / "demo" / "lindmoor.json").read_bytes()))
