"""The application as a team has it: served by settings behind a proxy, people kept, data saved and put back while it serves."""

import http.client
import json
import os
import shutil
import signal
import subprocess
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from launcher.ports import any_free
from launcher.postgres import Cluster
from tests.designs import NEWEST_14, ROOT, WEEKLY_FULL, design

NAME, PASSWORD = "nora", "a-long-and-dull-password"
PROXY = {
    "Host": "shelf.example",
    "X-Forwarded-Proto": "https",
    "X-Forwarded-For": "192.0.2.7",
    "X-Forwarded-Host": "shelf.example",
}


class Team:
    """A service by settings, asked as a server in front asks it, and the commands beside it."""

    def __init__(self, settings: Path, port: int) -> None:
        self.settings, self.port = settings, port
        self.cookies: dict[str, str] = {}

    def shelf(self, *arguments: str, stdin: str = "") -> subprocess.CompletedProcess[str]:
        environment = {name: value for name, value in os.environ.items() if not name.startswith("SHELF_DB")}
        environment["SHELF_SETTINGS"] = str(self.settings)
        return subprocess.run(
            [str(ROOT / "shelf"), *arguments], input=stdin, env=environment, capture_output=True, text=True, check=False
        )

    def ask(self, method: str, path: str, body: Any = None, **headers: str) -> tuple[int, Any, list[str]]:
        """The status, what is answered, and the cookies that are set, as they are written."""
        connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=60)
        words = {**PROXY, "Origin": "https://shelf.example", "Referer": "https://shelf.example/", **headers}
        words["Cookie"] = "; ".join(f"{name}={value}" for name, value in self.cookies.items())
        words["X-CSRFToken"] = self.cookies.get("csrftoken", "")
        content = None if body is None else json.dumps(body)
        connection.request(method, f"/api{path}", content, {**words, "Content-Type": "application/json"})
        answer = connection.getresponse()
        text = answer.read()
        cookies = answer.headers.get_all("Set-Cookie") or []
        for cookie in cookies:
            name, value = cookie.split(";")[0].split("=", 1)
            self.cookies[name] = value
        connection.close()
        return answer.status, json.loads(text) if text else None, cookies

    def sign_in(self) -> None:
        self.ask("GET", "/session")
        status, _, cookies = self.ask("POST", "/session", {"username": NAME, "password": PASSWORD})
        assert status == 200
        assert all("Secure" in cookie for cookie in cookies if cookie.startswith("sessionid"))


@pytest.fixture(scope="module")
def team(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Team]:
    folder = tmp_path_factory.mktemp("team")
    cluster, port = Cluster(f"team-{os.getpid()}", durable=False), any_free()
    cluster.start()
    login = cluster.environment()
    secret = folder / "password"
    secret.write_text(login["SHELF_DB_PASSWORD"])
    settings = folder / "settings.toml"
    settings.write_text(
        f"""
        listen = "127.0.0.1:{port}"
        host_names = ["shelf.example"]
        trusted_origins = ["https://shelf.example"]
        trusted_proxy = "127.0.0.1"
        secure_cookies = true
        web_processes = 2
        [database]
        host = "127.0.0.1"
        port = {login["SHELF_DB_PORT"]}
        user = "{login["SHELF_DB_USER"]}"
        name = "{login["SHELF_DB_NAME"]}"
        password_file = "{secret}"
        """
    )
    found = Team(settings, port)
    environment = {name: value for name, value in os.environ.items() if not name.startswith("SHELF_DB")}
    with (folder / "serve.log").open("w") as log:
        server = subprocess.Popen(
            [str(ROOT / "shelf"), "serve", "--settings", str(settings)], env=environment, stdout=log, stderr=log, start_new_session=True
        )  # fmt: skip
        try:
            _wait(found, server, folder / "serve.log")
            yield found
        finally:
            server.send_signal(signal.SIGTERM)
            server.wait(30)
            cluster.stop()
            shutil.rmtree(cluster.folder, ignore_errors=True)


def _wait(team: Team, server: subprocess.Popen[bytes], log: Path) -> None:
    for _ in range(600):
        assert server.poll() is None, log.read_text()
        try:
            if team.ask("GET", "/health")[0] == 200:
                return
        except OSError:
            pass
        time.sleep(0.1)
    raise AssertionError(log.read_text())


def test_people_are_added_and_sign_in_through_the_server_in_front(team: Team) -> None:
    assert team.shelf("people", "add", NAME, "--password-stdin", stdin=f"{PASSWORD}\n").returncode == 0
    again = team.shelf("people", "add", NAME, "--password-stdin", stdin=f"{PASSWORD}\n")
    assert (again.returncode, 'expected a name that nobody has, got "nora"' in again.stderr) == (1, True)
    short = team.shelf("people", "add", "olaf", "--password-stdin", stdin="short\n")
    assert "expected a password of at least 12 characters, got 5" in short.stderr
    assert team.shelf("people", "list").stdout == "nora\t0\t\t\n"
    team.sign_in()
    assert team.ask("GET", "/designs")[:2] == (200, [])
    # Another page than those that are trusted changes nothing, another name is not answered.
    assert team.ask("POST", "/designs", design(WEEKLY_FULL, NEWEST_14), Origin="https://elsewhere.example")[0] == 403
    assert team.ask("GET", "/designs", Host="elsewhere.example", **{"X-Forwarded-Host": "elsewhere.example"})[0] == 400


def test_data_are_saved_and_put_back_while_it_serves(team: Team, tmp_path: Path) -> None:
    if not team.cookies:
        team.shelf("people", "add", NAME, "--password-stdin", stdin=f"{PASSWORD}\n")
        team.sign_in()
    status, first, _ = team.ask("POST", "/designs", design(WEEKLY_FULL, NEWEST_14))
    assert status == 201
    file = tmp_path / "shelf.dump"
    saved = team.shelf("data", "save", str(file))
    assert saved.returncode == 0, saved.stderr
    assert oct(file.stat().st_mode & 0o777) == "0o600"
    team.ask("POST", "/designs", {**design(WEEKLY_FULL, NEWEST_14), "name": "Made after it was saved"})
    assert len(team.ask("GET", "/designs")[1]) == 2
    loaded = team.shelf("data", "load", str(file))
    assert loaded.returncode == 0, loaded.stderr
    assert "is kept as the database rested_shelf_before" in loaded.stderr
    for _ in range(50):  # a connection that was cut is made anew at the next question
        status, designs, _ = team.ask("GET", "/designs")
        if status == 200:
            break
        time.sleep(0.2)
    assert [one["id"] for one in designs] == [first["id"]]
    assert team.ask("GET", f"/designs/{first['id']}")[0] == 200


def test_a_file_that_is_none_of_ours_changes_nothing(team: Team, tmp_path: Path) -> None:
    before = team.shelf("people", "list").stdout
    for content in (b"hello", b"PGDMP but cut short"):
        file = tmp_path / "other.dump"
        file.write_bytes(content)
        refused = team.shelf("data", "load", str(file))
        assert refused.returncode != 0
        assert "expected a file that" in refused.stderr or "nothing has changed" in refused.stderr
    assert team.shelf("data", "load", str(tmp_path / "none")).returncode != 0
    assert team.shelf("people", "list").stdout == before
