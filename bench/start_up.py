"""How long the command line takes to begin, beside Python itself and beside what it then computes."""

import subprocess
import sys
from time import perf_counter

from bench.engine import DEMO
from launcher.places import ROOT, child_environment

ROUNDS = 7
ENVIRONMENT = child_environment(PYDANTIC_DISABLE_PLUGINS="1", OPENBLAS_NUM_THREADS="1")
EXAMPLE = ROOT / "tests" / "examples" / "one-disk.json"


def start_up() -> dict[str, float]:
    """Seconds of whole commands, medians of several."""
    bare = _median("-c", "pass")
    helped = _median("-m", "shelf_core.cli", "--help")
    valid = _median("-m", "shelf_core.cli", "validate", str(EXAMPLE))
    return {
        "Python itself (s)": bare,
        "./shelf --help (s)": helped,
        "./shelf validate, one workload (s)": valid,
        "./shelf validate, the demo (s)": _median("-m", "shelf_core.cli", "validate", str(DEMO)),
        "./shelf forecast, one workload (s)": _median("-m", "shelf_core.cli", "forecast", str(EXAMPLE)),
        "./shelf validate / Python itself": valid / bare,
    }


def _median(*arguments: str) -> float:
    taken = []
    for _ in range(ROUNDS):
        began = perf_counter()
        subprocess.run([sys.executable, *arguments], env=ENVIRONMENT, stdout=subprocess.DEVNULL, check=True)
        taken.append(perf_counter() - began)
    return sorted(taken)[ROUNDS // 2]
