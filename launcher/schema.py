"""`./shelf schema-types`: from the API to the schema that is committed, and to the types of the front end."""

import subprocess

from launcher import python_packages, web_build
from launcher.places import PYTHON, ROOT, WEB, child_environment


def write_schema_and_types() -> int:
    """Write both files; 0 when both were written."""
    python_packages.ensure("app")
    web_build.ensure_packages()
    command = [str(PYTHON), str(ROOT / "server" / "manage.py"), "write_schema"]
    wrote = subprocess.run(command, env=child_environment(), check=False).returncode
    return wrote or subprocess.run(["npm", "run", "--silent", "schema"], cwd=WEB, check=False).returncode
