"""A private PostgreSQL cluster on loopback: with a password, on a free port, without a socket file."""

import contextlib
import hashlib
import json
import os
import secrets
import shutil
import signal
import subprocess
import time
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from launcher.locks import held
from launcher.places import STATE, SetupError, say
from launcher.ports import any_free, is_free
from launcher.system_packages import postgres_programs

OWNER = "shelf"
LOGS = (
    "logging_collector=on",
    "log_filename=server-%a.log",
    "log_truncate_on_rotation=on",
    "log_rotation_age=1d",
    "log_rotation_size=0",
)
"""A log for each day of the week, in the data folder under `log`; each is written over a week later."""
LARGEST_START_LOG = 2**20
ROOT_DATA = Path("/var/lib/rested-shelf")
"""As root the server runs as the account `postgres`, which may be unable to reach the checkout."""


@dataclass(frozen=True)
class Cluster:
    """A cluster of this checkout. `durable` is False only for tests: their data may be lost with the power."""

    name: str
    durable: bool

    @property
    def folder(self) -> Path:
        """The folder that holds the data and the server's log."""
        if os.geteuid() != 0:
            return STATE / f"{self.name}-database"
        return ROOT_DATA / hashlib.sha256(str(STATE).encode()).hexdigest()[:12] / self.name

    @property
    def data(self) -> Path:
        """The data folder, also the working directory of the server while it runs."""
        return self.folder / "data"

    @property
    def settings_file(self) -> Path:
        """Port and password, readable by the owner alone. Written last, so that it marks a finished creation."""
        return self.folder / "settings.json"

    def environment(self) -> dict[str, str]:
        """What the application needs to know to connect."""
        settings = json.loads(self.settings_file.read_text())
        return {
            "SHELF_DB_HOST": "127.0.0.1",
            "SHELF_DB_PORT": str(settings["port"]),
            "SHELF_DB_USER": OWNER,
            "SHELF_DB_PASSWORD": settings["password"],
            "SHELF_DB_NAME": "rested_shelf",
        }

    def start(self) -> None:
        """Have the cluster running, created on first use. Safe to call when it runs already."""
        with held(f"{self.name}-database", waiting_for="it starts the database"):
            if self._answers():
                return
            self._end_leftovers()
            if not self.settings_file.exists():
                self._create()
            self._launch()
            self._create_database()

    def stop(self) -> None:
        """Stop the cluster if it runs; clients are disconnected."""
        with held(f"{self.name}-database", waiting_for="it stops the database"):
            if self._is_running():
                self._as_server("pg_ctl", "stop", "-D", str(self.data), "-m", "fast", "-w")

    def is_running(self) -> bool:
        """Whether the server that answers for our data folder is alive."""
        return self._is_running()

    @contextlib.contextmanager
    def running(self) -> Iterator[dict[str, str]]:
        """The cluster for the length of a with-block; what was running before goes on afterwards."""
        was_running = self._is_running()
        self.start()
        try:
            yield self.environment()
        finally:
            if not was_running:
                self.stop()

    def _is_running(self) -> bool:
        pid_file = self.data / "postmaster.pid"
        try:
            pid = int(pid_file.read_text().split("\n", 1)[0])
        except (FileNotFoundError, ValueError):
            return False
        return self._works_here(Path("/proc") / str(pid))

    def _answers(self) -> bool:
        """Whether the server takes connections; one that is just starting is waited for, one that is ending has ended then."""
        for _ in range(300):
            if not self._is_running() or not self.settings_file.exists():
                return False
            port = str(json.loads(self.settings_file.read_text())["port"])
            command = [f"{_programs()}/pg_isready", "-q", "-h", "127.0.0.1", "-p", port]
            if subprocess.run(command, check=False).returncode == 0:
                return True
            time.sleep(0.2)
        return False

    def _processes(self) -> list[int]:
        """Living processes whose working directory is our data folder: a pid alone may be reused or a zombie."""
        return [int(entry.name) for entry in Path("/proc").iterdir() if entry.name.isdigit() and self._works_here(entry)]

    def _works_here(self, process: Path) -> bool:
        try:
            return (process / "cwd").readlink() == self.data.resolve()
        except OSError:
            return False

    def _end_leftovers(self) -> None:
        for _ in range(50):
            left = self._processes()
            if not left:
                break
            for pid in left:
                with contextlib.suppress(ProcessLookupError):
                    os.kill(pid, signal.SIGKILL)
            time.sleep(0.1)
        (self.data / "postmaster.pid").unlink(missing_ok=True)

    def _create(self) -> None:
        say(f"creating the {self.name} database")
        shutil.rmtree(self.data, ignore_errors=True)
        self.folder.mkdir(parents=True, exist_ok=True)
        password = secrets.token_urlsafe(24)
        password_file = self.folder / "password"
        password_file.unlink(missing_ok=True)
        # Readable by its owner alone from the first moment on.
        with os.fdopen(os.open(password_file, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "w") as file:
            file.write(password)
        if os.geteuid() == 0:
            ROOT_DATA.chmod(0o755)
            self.folder.parent.chmod(0o755)
            shutil.chown(self.folder, "postgres")
            shutil.chown(password_file, "postgres")
        options = ["-U", OWNER, "--pwfile", str(password_file), "-A", "scram-sha-256", "-E", "UTF8", "--locale=C.UTF-8"]
        self._as_server("initdb", "-D", str(self.data), *options)
        password_file.unlink()
        self._write_settings(port=any_free(), password=password)

    def _launch(self) -> None:
        settings = json.loads(self.settings_file.read_text())
        if not is_free(settings["port"]):
            settings["port"] = any_free()
            self._write_settings(**settings)
        options = ["-p", str(settings["port"]), "-c", "listen_addresses=127.0.0.1", "-c", "unix_socket_directories="]
        if not self.durable:
            options += ["-c", "fsync=off", "-c", "synchronous_commit=off", "-c", "full_page_writes=off"]
        options += [word for setting in LOGS for word in ("-c", setting)]
        log = self.folder / "server.log"
        if log.exists() and log.stat().st_size > LARGEST_START_LOG:
            log.unlink()
        self._as_server("pg_ctl", "start", "-D", str(self.data), "-w", "-t", "60", "-l", str(log), "-o", " ".join(options))

    def _create_database(self) -> None:
        environment = self.environment()
        login = {**os.environ, "PGPASSWORD": environment["SHELF_DB_PASSWORD"], "PGCONNECT_TIMEOUT": "10"}
        base = ["-h", "127.0.0.1", "-p", environment["SHELF_DB_PORT"], "-U", OWNER]
        name = environment["SHELF_DB_NAME"]
        query = [f"{_programs()}/psql", *base, "-d", "postgres", "-tAc", f"select 1 from pg_database where datname='{name}'"]
        found = subprocess.run(query, env=login, capture_output=True, text=True, check=True).stdout.strip()
        if not found:
            subprocess.run([f"{_programs()}/createdb", *base, name], env=login, check=True)

    def _write_settings(self, *, port: int, password: str) -> None:
        aside = self.settings_file.with_suffix(".new")
        with os.fdopen(os.open(aside, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "w") as file:
            json.dump({"port": port, "password": password}, file)
        aside.replace(self.settings_file)

    def _as_server(self, program: str, *arguments: str) -> None:
        """Run a program of the server as the account that owns the data; a Ctrl-C at our terminal does not reach it."""
        command = [f"{_programs()}/{program}", *arguments]
        if os.geteuid() == 0:
            command = ["runuser", "-u", "postgres", "--", *command]
        with (STATE / f"{self.name}-{program}.log").open("w+") as output:
            ended = subprocess.run(
                command, cwd="/", stdin=subprocess.DEVNULL, stdout=output, stderr=output, start_new_session=True, check=False
            )
            output.seek(0)
            if ended.returncode != 0:
                raise SetupError(f"{program} failed (server log: {self.folder / 'server.log'}):\n{output.read()[-2000:]}")


def program(name: str) -> Path:
    """One of PostgreSQL's own programs. Raises SetupError where there is none."""
    return _programs() / name


def _programs() -> Path:
    programs = postgres_programs()
    if programs is None:
        raise SetupError("the PostgreSQL server is missing: apt-get install postgresql")
    return programs


USERS = Cluster("users", durable=True)
TESTS = Cluster("tests", durable=False)
