"""`./shelf dev`: Django and Vite, each reloading what changes."""

import subprocess
import time

from launcher import postgres, python_packages, supervisor, system_packages, web_build
from launcher.children import end, start_with_us
from launcher.places import PYTHON, ROOT, WEB, child_environment, say
from launcher.service import start_worker

SERVER_PORT, WEB_PORT = 8118, 5173


def dev() -> int:
    """Serve with reload until Ctrl-C."""
    system_packages.ensure(system_packages.FOR_USE)
    python_packages.ensure("dev")
    web_build.ensure_packages()
    was_running = postgres.USERS.is_running()
    supervisor.prepare_database(postgres.USERS)
    environment = child_environment(
        **postgres.USERS.environment(), SHELF_DEBUG="1", SHELF_SERVER=f"http://127.0.0.1:{SERVER_PORT}"
    )
    manage = str(ROOT / "server" / "manage.py")
    children: list[subprocess.Popen[bytes]] = []
    try:
        children.append(start_with_us([str(PYTHON), manage, "runserver", f"127.0.0.1:{SERVER_PORT}"], environment))
        children.append(start_worker(postgres.USERS))
        vite = ["npx", "vite", "--host", "127.0.0.1", "--port", str(WEB_PORT)]
        children.append(start_with_us(vite, environment, cwd=WEB))
        say(f"open http://127.0.0.1:{WEB_PORT}/ (Ctrl-C stops)")
        while all(child.poll() is None for child in children):
            time.sleep(0.5)
        return 1
    except KeyboardInterrupt:
        return 0
    finally:
        for child in children:
            end(child)
        if not was_running:
            postgres.USERS.stop()
