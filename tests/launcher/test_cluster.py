"""The private database cluster: it starts twice, comes back after a kill, and keeps its data."""

import os
import shutil
import signal
import subprocess
from collections.abc import Iterator

import psycopg
import pytest

from launcher.postgres import Cluster
from tests.designs import ROOT


@pytest.fixture
def cluster() -> Iterator[Cluster]:
    made = Cluster(f"trial-{os.getpid()}", durable=True)
    yield made
    made.stop()
    shutil.rmtree(made.folder, ignore_errors=True)


def connect(cluster: Cluster) -> psycopg.Connection[tuple[object, ...]]:
    login = cluster.environment()
    return psycopg.connect(
        host=login["SHELF_DB_HOST"],
        port=int(login["SHELF_DB_PORT"]),
        user=login["SHELF_DB_USER"],
        password=login["SHELF_DB_PASSWORD"],
        dbname=login["SHELF_DB_NAME"],
    )


def asked(cluster: Cluster, question: str) -> object:
    with connect(cluster) as connection:
        row = connection.execute(question.encode()).fetchone()
        return row[0] if row else None


def test_cluster_survives_a_kill_with_its_data(cluster: Cluster) -> None:
    cluster.start()
    cluster.start()
    assert asked(cluster, "show fsync") == "on"
    with connect(cluster) as connection:
        connection.execute("create table kept as select 42 as answer")
    pid = int((cluster.data / "postmaster.pid").read_text().split("\n", 1)[0])
    os.kill(pid, signal.SIGKILL)
    cluster.start()
    assert cluster.is_running()
    assert asked(cluster, "select answer from kept") == 42
    cluster.stop()
    assert not cluster.is_running()


def test_cluster_answers_on_loopback_with_the_password_alone(cluster: Cluster) -> None:
    cluster.start()
    assert asked(cluster, "show listen_addresses") == "127.0.0.1"
    assert asked(cluster, "show unix_socket_directories") == ""
    login = cluster.environment()
    with pytest.raises(psycopg.OperationalError, match="password authentication failed"):
        psycopg.connect(host="127.0.0.1", port=int(login["SHELF_DB_PORT"]), user=login["SHELF_DB_USER"], password="wrong")
    assert oct(cluster.settings_file.stat().st_mode & 0o777) == "0o600"


def test_commands_are_listed() -> None:
    printed = subprocess.run([str(ROOT / "shelf"), "--help"], capture_output=True, text=True, check=True).stdout
    assert all(command in printed for command in ("demo", "test", "forecast", "points", "bench", "dev"))


def test_a_command_that_there_is_not_is_answered_with_those_like_it() -> None:
    said = subprocess.run([str(ROOT / "shelf"), "forcast"], capture_output=True, text=True, check=False)
    assert (said.returncode, said.stdout) == (2, "")
    assert 'expected a command, got "forcast"; did you mean forecast?' in said.stderr
