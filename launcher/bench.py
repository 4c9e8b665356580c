"""`./shelf bench`: measures the demo through the real server and the real page."""

import subprocess

from launcher import postgres, python_packages, supervisor, system_packages, web_build
from launcher.places import PYTHON, ROOT, child_environment


def bench(arguments: list[str]) -> int:
    """Serve the demo design from the tests' cluster, measure, stop; `--json FILE` keeps the figures."""
    system_packages.ensure([system_packages.POSTGRES, system_packages.NODE, system_packages.CHROMIUM])
    python_packages.ensure("dev")
    web_build.ensure_build()
    with postgres.TESTS.running() as database:
        supervisor.prepare_database(postgres.TESTS)
        port = supervisor.choose_port(None)
        address = f"http://127.0.0.1:{port}/"
        server = supervisor.start_server(port, postgres.TESTS)
        try:
            supervisor.wait_until_it_answers(server, address)
            command = [str(PYTHON), "-m", "bench", address, *arguments]
            return subprocess.run(command, cwd=ROOT, env=child_environment(**database), check=False).returncode
        finally:
            supervisor.end(server)
