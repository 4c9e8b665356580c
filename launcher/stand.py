"""`./shelf stand`: what the load and fault test needs, and the test itself."""

import subprocess

from launcher import python_packages, system_packages, web_build
from launcher.places import PYTHON, ROOT, child_environment


def stand(arguments: list[str]) -> int:
    """Run it with its own arguments; its exit status."""
    system_packages.ensure(system_packages.FOR_USE)
    python_packages.ensure("app")
    web_build.ensure_build()
    command = [str(PYTHON), "-m", "stand", *arguments]
    return subprocess.run(command, cwd=ROOT, env=child_environment(), check=False).returncode
