"""What the process that forks leaves behind once it has loaded everything."""

import os
import subprocess
import sys

from tests.designs import ROOT


def test_what_is_made_later_is_looked_through_again_and_what_was_loaded_is_not() -> None:
    asks = (
        "import gc\nimport shelf_server.front.loading\nassert not gc.isenabled()\n"
        "import shelf_server.front.loaded\nprint(gc.isenabled(), gc.get_freeze_count() > 100_000)"
    )
    paths = os.pathsep.join(str(ROOT / part) for part in ("core", "server", "."))
    environment = {**os.environ, "PYTHONPATH": paths, "DJANGO_SETTINGS_MODULE": "shelf_server.settings"}
    found = subprocess.run([sys.executable, "-c", asks], capture_output=True, text=True, check=False, env=environment)
    assert found.stdout.split() == ["True", "True"], found.stderr
