"""Keeps the application and its database running until it is asked to stop."""

import contextlib
import ctypes
import json
import os
import signal
import subprocess
import time
import urllib.error
import urllib.request
from pathlib import Path
from types import FrameType

from launcher import postgres, python_packages, system_packages, web_build
from launcher.locks import held_if_free
from launcher.places import PYTHON, ROOT, STATE, SetupError, child_environment, say
from launcher.ports import is_free

WANTED_PORT = 8117
ADDRESS_FILE = STATE / "demo.json"
DIE_WITH_PARENT = 1
"""PR_SET_PDEATHSIG of prctl(2): a child does not outlive a supervisor that was killed."""


class _Asked(Exception):
    """Somebody asked us to stop."""


def demo(port: int | None) -> int:
    """Set everything up, serve the application with the demo design, print the address, stay until Ctrl-C."""
    with held_if_free("demo") as first:
        if not first:
            return _tell_where_it_runs()
        signal.signal(signal.SIGTERM, _ask)
        signal.signal(signal.SIGINT, _ask)
        try:
            _prepare()
            return _serve(port)
        except _Asked:
            return 0
        finally:
            signal.signal(signal.SIGTERM, signal.SIG_IGN)
            signal.signal(signal.SIGINT, signal.SIG_IGN)
            postgres.USERS.stop()
            ADDRESS_FILE.unlink(missing_ok=True)
            say("stopped")


def manage(cluster: postgres.Cluster, *arguments: str) -> None:
    """Run one of Django's management commands on a cluster; its output is shown when it fails."""
    ended = subprocess.run(
        [str(PYTHON), str(ROOT / "server" / "manage.py"), *arguments],
        env=child_environment(**cluster.environment()),
        capture_output=True,
        text=True,
        check=False,
    )
    if ended.returncode != 0:
        raise SetupError(f"manage.py {' '.join(arguments)} failed:\n{(ended.stdout + ended.stderr)[-3000:]}")


def prepare_database(cluster: postgres.Cluster) -> None:
    """Have a database running, migrated, with the demo account and design in it."""
    say("starting the database")
    cluster.start()
    manage(cluster, "migrate", "--no-input")
    manage(cluster, "load_demo")


def start_with_us(command: list[str], environment: dict[str, str], cwd: Path = ROOT) -> subprocess.Popen[bytes]:
    """Start a child that ends with us and that a Ctrl-C at the terminal does not reach by itself."""
    libc = ctypes.CDLL(None)
    return subprocess.Popen(
        command,
        cwd=cwd,
        env=environment,
        start_new_session=True,
        preexec_fn=lambda: libc.prctl(DIE_WITH_PARENT, signal.SIGTERM),
    )


def end(child: subprocess.Popen[bytes]) -> None:
    """End a child and all that it started, kindly first. Each child leads a process group of its own."""
    _signal_group(child, signal.SIGTERM)
    try:
        child.wait(timeout=5)
    except subprocess.TimeoutExpired:
        _signal_group(child, signal.SIGKILL)
        child.wait()


def _signal_group(child: subprocess.Popen[bytes], number: int) -> None:
    with contextlib.suppress(ProcessLookupError):
        os.killpg(child.pid, number)


def _ask(_signal: int, _frame: FrameType | None) -> None:
    raise _Asked


def _prepare() -> None:
    system_packages.ensure(system_packages.FOR_USE)
    python_packages.ensure("app")
    web_build.ensure_build()
    prepare_database(postgres.USERS)


def _serve(port: int | None) -> int:
    port = choose_port(port)
    address = f"http://127.0.0.1:{port}/"
    child = start_server(port, postgres.USERS)
    try:
        wait_until_it_answers(child, address)
        ADDRESS_FILE.write_text(json.dumps({"address": address}))
        _tell(address)
        while True:
            time.sleep(0.5)
            if not postgres.USERS.is_running():
                say("the database has ended; starting it again")
                postgres.USERS.start()
                end(child)
            if child.poll() is not None:
                say("the server has ended; starting it again")
                child = start_server(port, postgres.USERS)
                wait_until_it_answers(child, address)
    finally:
        end(child)


def start_server(port: int, cluster: postgres.Cluster) -> subprocess.Popen[bytes]:
    """Start the application on a port of the loopback interface, over a cluster."""
    # One process with threads: the engine's results are kept in memory and shared by all requests.
    options = ["--workers", "1", "--threads", "8", "--bind", f"127.0.0.1:{port}", "--log-level", "warning"]
    command = [str(PYTHON), "-m", "gunicorn", *options, "--graceful-timeout", "3", "shelf_server.wsgi:application"]
    return start_with_us(command, child_environment(**cluster.environment()))


def wait_until_it_answers(child: subprocess.Popen[bytes], address: str) -> None:
    """Come back when the application answers. Raises SetupError when it ended or stays silent."""
    for _ in range(300):
        if child.poll() is not None:
            raise SetupError("the server ended while starting; its message is above")
        try:
            with urllib.request.urlopen(f"{address}api/health", timeout=2):
                return
        except (urllib.error.URLError, OSError):
            time.sleep(0.1)
    raise SetupError("the server did not answer within 30 seconds")


def choose_port(port: int | None) -> int:
    """The port that was asked for, or the first free one. Raises SetupError when the former is taken."""
    if port is not None:
        if not is_free(port):
            raise SetupError(f"port {port} is taken; choose another with --port, or leave --port out")
        return port
    return next(candidate for candidate in range(WANTED_PORT, 65535) if is_free(candidate))


def _tell_where_it_runs() -> int:
    for _ in range(600):
        if ADDRESS_FILE.exists():
            _tell(json.loads(ADDRESS_FILE.read_text())["address"])
            return 0
        time.sleep(0.1)
    raise SetupError("another shelf demo is starting and has not said its address within a minute")


def _tell(address: str) -> None:
    print(f"\n  Rested Shelf runs at {address}", flush=True)
    print("  Sign in as  mara  with the password  lindmoor-demo  (Ctrl-C stops it)\n", flush=True)
