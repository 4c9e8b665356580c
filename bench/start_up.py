"""How long the command line takes to begin, beside Python itself and beside what it then computes."""

import subprocess
import sys
from time import perf_counter

from bench.engine import DEMO
from launcher.places import ROOT, child_environment

ROUNDS = 7
ENVIRONMENT = child_environment(PYDANTIC_DISABLE_PLUGINS="1", OPENBLAS_NUM_THREADS="1")
NOWHERE = ROOT / ".shelf" / "no such design.json"
EXAMPLE = ROOT / "tests" / "examples" / "one-disk.json"


def start_up() -> dict[str, float]:
    """Seconds of whole commands, medians of several."""
    bare = _median("-c", "pass")
    helped = _median("-m", "shelf_core.cli", "--help")
    valid = _median("-m", "shelf_core.cli", "validate", str(EXAMPLE))
    return {
        "Python itself (s)": bare,
        "./shelf --help (s)": helped,
        "./shelf forecast, until it would read the design (s)": _median("-m", "shelf_core.cli", "forecast", str(NOWHERE)),
        "./shelf validate, one workload (s)": valid,
        "./shelf validate, the demo (s)": _median("-m", "shelf_core.cli", "validate", str(DEMO)),
        "./shelf forecast, one workload (s)": _median("-m", "shelf_core.cli", "forecast", str(EXAMPLE)),
        "./shelf validate / Python itself": valid / bare,
    }


def _median(*arguments: str) -> float:
    taken = []
    for _ in range(ROUNDS):
        began = perf_counter()
        done = subprocess.run([sys.executable, *arguments], env=ENVIRONMENT, capture_output=True, check=False)
        if done.returncode != (2 if str(NOWHERE) in arguments else 0):
            raise RuntimeError(done.stderr.decode())
        taken.append(perf_counter() - began)
    return sorted(taken)[ROUNDS // 2]
