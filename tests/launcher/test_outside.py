"""Settings for a team: each is read or refused at its place; the examples of docs/running.md are settings."""

import re
import tomllib
from pathlib import Path

import pytest

from launcher.outside import KNOWN, place_of, settings_from
from launcher.places import SetupError
from tests.designs import ROOT

PAGE = (ROOT / "docs" / "running.md").read_text()


def example() -> str:
    found = re.search(r"```toml\n(.*?)```", PAGE, re.DOTALL)
    assert found
    return found[1]


def written(folder: Path, text: str) -> str:
    file = folder / "settings.toml"
    file.write_text(text)
    return str(file)


def test_the_example_of_the_page_says_every_setting(tmp_path: Path) -> None:
    secret = tmp_path / "password"
    secret.write_text("quite a secret\n")
    text = example().replace("/etc/rested-shelf.password", str(secret))
    said = settings_from(written(tmp_path, text), {})
    assert set(said) == {variable for variable, _, _ in KNOWN.values()}
    assert said["SHELF_DB_PASSWORD"] == "quite a secret"
    assert said["SHELF_HOST_NAMES"] == "shelf.example"
    assert (said["SHELF_SECURE_COOKIES"], said["SHELF_DB_PORT"]) == ("1", "5432")
    content = tomllib.loads(text)
    assert len([*content, *content["database"]]) == len(KNOWN) + 1
    for variable in said:
        assert f"`{variable}`" in PAGE, variable


def test_the_environment_wins_over_the_file(tmp_path: Path) -> None:
    file = written(tmp_path, 'listen = "127.0.0.1:8117"\nweb_processes = 4\n')
    assert settings_from(file, {"SHELF_LISTEN": "127.0.0.1:9000", "SHELF_HOST_NAMES": ""}) == {
        "SHELF_LISTEN": "127.0.0.1:9000",
        "SHELF_WEB_PROCESSES": "4",
    }
    assert settings_from(None, {}) == {}


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("colour = 1", "colour: expected one of listen, host_names"),
        ('host_names = "shelf.example"', "host_names: expected a list of names"),
        ("secure_cookies = 1", "secure_cookies: expected true or false, got 1"),
        ("web_processes = 0", "web_processes: expected a number of processes"),
        ("[database]\nhost = 5", "database.host: expected the host of a PostgreSQL server, got 5"),
        ('[database]\npassword_file = "/nowhere/at/all"', "database.password_file: expected a file that can be read"),
        ("listen =", "expected settings in TOML"),
    ],
)
def test_what_cannot_be_is_refused_at_its_place(tmp_path: Path, text: str, said: str) -> None:
    with pytest.raises(SetupError) as refused:
        settings_from(written(tmp_path, text), {})
    assert said in str(refused.value)


def test_a_file_that_is_not_there_is_said(tmp_path: Path) -> None:
    with pytest.raises(SetupError, match=r"none\.toml: expected settings"):
        settings_from(str(tmp_path / "none.toml"), {})


@pytest.mark.parametrize("listen", ["8117", "127.0.0.1:", ":8117", "127.0.0.1:0", "127.0.0.1:70000", "127.0.0.1:x"])
def test_a_place_to_listen_is_an_address_and_a_port(listen: str) -> None:
    assert place_of("127.0.0.1:8117") == ("127.0.0.1", 8117)
    with pytest.raises(SetupError, match="listen: expected an address and a port"):
        place_of(listen)
