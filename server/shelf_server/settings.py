"""Settings. What differs between machines comes from the environment, which the `shelf` script fills."""

import contextlib
import os
import secrets
from pathlib import Path

BASE = Path(__file__).resolve().parent.parent.parent
STATE = Path(os.environ.get("SHELF_STATE") or BASE / ".shelf")
DEBUG = os.environ.get("SHELF_DEBUG") == "1"


def _listed(variable: str) -> list[str]:
    return [one for one in os.environ.get(variable, "").split(",") if one]


ALLOWED_HOSTS = ["127.0.0.1", "localhost", *_listed("SHELF_HOST_NAMES")]


def _secret_key() -> str:
    """A key of this checkout's own, made by whoever starts first and readable by its owner alone.

    It is written aside and then given its name, which only the first can do: nobody ever reads half of one.
    """
    file = STATE / "secret-key"
    if not file.exists():
        STATE.mkdir(parents=True, exist_ok=True)
        aside = STATE / f"secret-key.{os.getpid()}.{secrets.token_hex(8)}"
        descriptor = os.open(aside, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
        with os.fdopen(descriptor, "w") as out:
            out.write(secrets.token_urlsafe(48))
        with contextlib.suppress(FileExistsError):
            os.link(aside, file)
        aside.unlink()
    return file.read_text()


SECRET_KEY = _secret_key()
INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.postgres",
    "axes",
    "procrastinate.contrib.django",
    "shelf_server.designs",
    "shelf_server.jobs",
    "shelf_server.api",
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "shelf_server.page.same_policy",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.middleware.gzip.GZipMiddleware",
    "shelf_server.api.middleware.api_answers",
    "django.middleware.http.ConditionalGetMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "axes.middleware.AxesMiddleware",
]
AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "django.contrib.auth.backends.ModelBackend"]
PASSWORD_HASHERS = ["django.contrib.auth.hashers.Argon2PasswordHasher"]
AXES_FAILURE_LIMIT = 8
AXES_COOLOFF_TIME = 0.25
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_VERBOSE = False
AXES_RESET_ON_SUCCESS = True
ROOT_URLCONF = "shelf_server.urls"
WSGI_APPLICATION = "shelf_server.wsgi.application"
DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "HOST": os.environ.get("SHELF_DB_HOST", "127.0.0.1"),
        "PORT": os.environ.get("SHELF_DB_PORT", "5432"),
        "USER": os.environ.get("SHELF_DB_USER", "shelf"),
        "PASSWORD": os.environ.get("SHELF_DB_PASSWORD", ""),
        "NAME": os.environ.get("SHELF_DB_NAME", "rested_shelf"),
        "CONN_MAX_AGE": 600,
        "CONN_HEALTH_CHECKS": True,
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
USE_TZ = True
TIME_ZONE = "UTC"
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
CSRF_FAILURE_VIEW = "shelf_server.api.problems.csrf_failure"
CSRF_TRUSTED_ORIGINS = [
    *_listed("SHELF_TRUSTED_ORIGINS"),
    *(["http://127.0.0.1:5173", "http://localhost:5173"] if DEBUG else []),
]
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = os.environ.get("SHELF_SECURE_COOKIES") == "1"
DATA_UPLOAD_MAX_MEMORY_SIZE = 64 * 2**20
# Nothing is served by Django itself: the front end's files come from its build.
# Requests in a minute. A page that is worked with asks some twenty times a second; a script has no such reason.
SHELF_RATES = {"page": 6000, "script": 600, "nobody": 600}
STATIC_URL = "/django-static/"
WEB_BUILD = BASE / "web" / "dist"
# The build names its files by their content; all but index.html may be kept for good.
WHITENOISE_ROOT = WEB_BUILD if WEB_BUILD.is_dir() else None
WHITENOISE_MAX_AGE = 0
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/assets/.+-[A-Za-z0-9_-]{8}\."
X_FRAME_OPTIONS = "DENY"
SECURE_REFERRER_POLICY = "same-origin"
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
}
