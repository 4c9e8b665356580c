"""The digest of a design: what a number in a file can be traced to."""

import hashlib
import json

from shelf_core.design.document import Design


def digest(design: Design) -> str:
    """SHA-256 of the canonical document (keys sorted, no space, UTF-8), as hexadecimal digits."""
    text = json.dumps(design.canonical(), sort_keys=True, separators=(",", ":"), ensure_ascii=False)
    return hashlib.sha256(text.encode()).hexdigest()
