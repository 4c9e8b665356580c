"""How much memory this process holds."""

import os
from pathlib import Path


def resident_bytes() -> int:
    """What of this process lies in memory now."""
    return int(Path("/proc/self/statm").read_text().split()[1]) * os.sysconf("SC_PAGE_SIZE")
