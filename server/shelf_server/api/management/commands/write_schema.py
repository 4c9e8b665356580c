"""Writes the OpenAPI schema that the front end's types are made from, and the page to read that is made from it."""

import json
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand

from shelf_core.design.vocabulary import VOCABULARY
from shelf_server.api.api import api
from shelf_server.api.guide import guide_text

SCHEMA_FILE = settings.BASE / "web" / "openapi.json"
VOCABULARY_FILE = settings.BASE / "web" / "src" / "api" / "generated" / "vocabulary.ts"
GUIDE_FILE = settings.BASE / "docs" / "api.md"


def schema_text() -> str:
    """The schema as it is committed: through JSON once, so that all keys are text and can be sorted."""
    plain = json.loads(json.dumps(api.get_openapi_schema()))
    return json.dumps(plain, indent=1, sort_keys=True) + "\n"


def vocabulary_text() -> str:
    """The core's words and lists for the page, as a module of TypeScript."""
    words = json.dumps(VOCABULARY, indent=2)
    return f"/** Written by ./shelf schema-types from the core. */\nexport const VOCABULARY = {words} as const;\n"


class Command(BaseCommand):
    """Write web/openapi.json, docs/api.md and the page's vocabulary."""

    help = __doc__

    def handle(self, *_args: Any, **_options: Any) -> None:
        """Run the command."""
        text = schema_text()
        SCHEMA_FILE.write_text(text)
        VOCABULARY_FILE.write_text(vocabulary_text())
        GUIDE_FILE.write_text(guide_text(json.loads(text)))
