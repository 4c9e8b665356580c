"""A person's client: signs in, asks, sends; the standard library's own, so that nothing retries behind our back."""

import http.client
import json
import urllib.parse
from http.cookies import SimpleCookie
from typing import Any

PASSWORD = "lindmoor-demo"


class Client:
    """One person at an address of the loopback interface. Each request has a connection of its own."""

    def __init__(self, address: str, name: str = "mara", timeout: float = 30.0) -> None:
        parts = urllib.parse.urlsplit(address)
        if parts.hostname != "127.0.0.1" or parts.port is None:
            raise ValueError(f"expected an address on 127.0.0.1 with a port, got {address}")
        self.port, self._name, self._timeout = parts.port, name, timeout
        self._cookies: dict[str, str] = {}

    def sign_in(self) -> None:
        """Sign in. Raises OSError or http.client.HTTPException where nobody answers, RuntimeError where it is refused."""
        self._ask("GET", "/api/session", None)
        status, answer = self._ask("POST", "/api/session", {"username": self._name, "password": PASSWORD})
        if status != 200:
            raise RuntimeError(f"sign-in: {status} {answer}")

    def __call__(self, method: str, path: str, body: Any = None) -> tuple[int, Any]:
        """Status and answer. Raises OSError or http.client.HTTPException where there is none."""
        return self._ask(method, f"/api{path}", body)

    def headers(self) -> dict[str, str]:
        """What a request of this person carries."""
        cookies = "; ".join(f"{name}={value}" for name, value in self._cookies.items())
        found = {"Content-Type": "application/json", "X-CSRFToken": self._cookies.get("csrftoken", "")}
        return {**found, "Cookie": cookies} if cookies else found

    def _ask(self, method: str, path: str, body: Any) -> tuple[int, Any]:
        connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=self._timeout)
        try:
            content = None if body is None else json.dumps(body)
            connection.request(method, path, content, self.headers())
            answer = connection.getresponse()
            for line in answer.headers.get_all("Set-Cookie") or ():
                self._cookies.update({name: morsel.value for name, morsel in SimpleCookie(line).items()})
            said = answer.read()
            is_json = "json" in answer.headers.get("Content-Type", "")
            return answer.status, json.loads(said) if is_json and said else said
        finally:
            connection.close()
