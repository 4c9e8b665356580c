"""Commands that serve the demo as it ships, from the tests' cluster, and look at it: `bench` and `pictures`."""

import subprocess

from launcher import postgres, python_packages, supervisor, system_packages, web_build
from launcher.places import PYTHON, ROOT, child_environment
from launcher.service import Service, Workers


def look_at_demo(module: str, arguments: list[str], workers: int) -> int:
    """Serve the demo design, run a Python module with the address as its first argument, stop; give its exit status."""
    system_packages.ensure(system_packages.FOR_TESTS)
    python_packages.ensure("dev")
    web_build.ensure_build()
    with postgres.TESTS.running() as database:
        supervisor.prepare_database(postgres.TESTS)
        supervisor.manage(postgres.TESTS, "load_demo", "--fresh")
        port = supervisor.choose_port(None)
        address = f"http://127.0.0.1:{port}/"
        server, working = Service(port, postgres.TESTS), Workers(workers, postgres.TESTS)
        try:
            server.begin()
            working.begin()
            command = [str(PYTHON), "-m", module, address, *arguments]
            return subprocess.run(command, cwd=ROOT, env=child_environment(**database), check=False).returncode
        finally:
            working.end()
            server.end()
