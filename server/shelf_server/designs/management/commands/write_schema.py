"""Writes the OpenAPI schema that the front end's types are made from."""

import json
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand

from shelf_server.api.api import api

SCHEMA_FILE = settings.BASE / "web" / "openapi.json"


def schema_text() -> str:
    """The schema as it is committed: through JSON once, so that all keys are text and can be sorted."""
    plain = json.loads(json.dumps(api.get_openapi_schema()))
    return json.dumps(plain, indent=1, sort_keys=True) + "\n"


class Command(BaseCommand):
    """Write web/openapi.json."""

    help = __doc__

    def handle(self, *_args: Any, **_options: Any) -> None:
        """Run the command."""
        SCHEMA_FILE.write_text(schema_text())
