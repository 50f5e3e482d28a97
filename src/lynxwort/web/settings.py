"""Settings. LYNXWORT_DATA: the data directory; LYNXWORT_DEMO=1: the demo's own database; HOST: where it is served."""

import os
import secrets
from pathlib import Path
from urllib.parse import urlsplit

from lynxwort import places, words

PACKAGE = Path(__file__).resolve().parent
DEMO = os.environ.get("LYNXWORT_DEMO") == "1"
DATA_DIR = places.data(demo=DEMO)
HOST = os.environ.get("HOST", "127.0.0.1")
#: behind a front that speaks for others nothing may be trusted because it comes from this machine
TLS = os.environ.get("LYNXWORT_TLS") == "1"
FRONT = os.environ.get("LYNXWORT_FRONT") == "1"
#: what phones are to call it, where its own interfaces do not tell: behind a front, whose requests bring that name
ADDRESS = os.environ.get("LYNXWORT_ADDRESS", "").rstrip("/")


def _port(text: str) -> int:
    if not (text.isascii() and text.isdigit() and len(text) <= 5 and 0 < int(text) < 65536):
        raise SystemExit(f"PORT is a number from 1 to 65535, not {text!r}.")
    return int(text)


def _host_of(address: str) -> str:
    parts = urlsplit(address)
    if parts.scheme not in ("http", "https") or not parts.hostname or parts.path or parts.query:
        raise SystemExit(f"LYNXWORT_ADDRESS is like https://bench.example or http://10.0.0.5:8000, not {address!r}.")
    return f"[{parts.hostname}]" if ":" in parts.hostname else parts.hostname


def _own_folder(path: Path) -> None:
    """Make the data folder, for its owner only; what lies in it already is closed to others too."""
    os.umask(0o077)
    try:
        path.mkdir(parents=True, exist_ok=True)
        path.chmod(0o700)
        for item in path.iterdir():
            if not item.is_symlink() and item.stat().st_mode & 0o077:
                item.chmod(item.stat().st_mode & 0o700)
    except OSError as error:
        raise SystemExit(
            f"The data folder {path} cannot be used: {error.strerror}. LYNXWORT_DATA says where it is."
        ) from None


PORT = _port(os.environ.get("PORT", "8000"))
_own_folder(DATA_DIR)


def _secret_key() -> str:
    """The key in the data directory, made once, readable by its owner only."""
    path = DATA_DIR / "secret-key"
    try:
        descriptor = os.open(path, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o600)
    except FileExistsError:
        return path.read_text()
    except OSError as error:
        raise SystemExit(f"Nothing can be written to the data folder {DATA_DIR}: {error.strerror}.") from None
    key = secrets.token_urlsafe(50)
    with os.fdopen(descriptor, "w") as file:
        file.write(key)
    return key


SECRET_KEY = _secret_key()
DEBUG = False
ALLOWED_HOSTS = sorted({"127.0.0.1", "localhost", "[::1]", HOST}) if HOST != "0.0.0.0" else ["*"]  # noqa: S104
if ADDRESS:
    ALLOWED_HOSTS.append(_host_of(ADDRESS))
#: a front that speaks TLS to the world speaks plainly here: the page's origin is then not what the request seems to be
CSRF_TRUSTED_ORIGINS = [ADDRESS] if ADDRESS else []
ROOT_URLCONF = "lynxwort.web.urls"
WSGI_APPLICATION = "lynxwort.web.wsgi.application"
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
AUTH_USER_MODEL = "garages.User"
LOGIN_URL = "garages:sign-in"
LOGIN_REDIRECT_URL = "stand"
LOGOUT_REDIRECT_URL = "garages:sign-in"

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.messages",
    "django.contrib.staticfiles",
    "django_htmx",
    "csp",
    "axes",
    "lynxwort.web.machine",
    "lynxwort.web.ui",
    "lynxwort.web.garages",
    "lynxwort.web.bikes",
    "lynxwort.web.races",
    "lynxwort.web.parts",
    "lynxwort.web.readings",
    "lynxwort.web.runs",
    "lynxwort.web.service",
    "lynxwort.web.jobs",
    "lynxwort.web.bench",
    "lynxwort.web.stations",
    "lynxwort.web.people",
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "csp.middleware.CSPMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "lynxwort.web.ui.middleware.BrowsersLanguage",
    "lynxwort.web.ui.gate.Gate",
    "lynxwort.web.ui.middleware.PageGzip",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.contrib.auth.middleware.LoginRequiredMiddleware",
    "django.contrib.messages.middleware.MessageMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "django_htmx.middleware.HtmxMiddleware",
    "lynxwort.web.garages.middleware.IdleMiddleware",
    "lynxwort.web.garages.middleware.GarageMiddleware",
    "lynxwort.web.people.doors.Doors",
    "lynxwort.web.ui.middleware.SizeLimit",
    "axes.middleware.AxesMiddleware",
]
AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "django.contrib.auth.backends.ModelBackend"]
AXES_FAILURE_LIMIT = 8
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_WHITELIST_CALLABLE = "lynxwort.web.garages.services.never_locked_out"
AXES_COOLOFF_TIME = 0.25
AXES_LOCKOUT_TEMPLATE = "garages/locked.html"
AXES_VERBOSE = False
AXES_DISABLE_ACCESS_LOG = True  # it would keep addresses asked for, the token of a code to join by among them
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "APP_DIRS": True,
        "OPTIONS": {
            "context_processors": [
                "django.template.context_processors.request",
                "django.contrib.auth.context_processors.auth",
                "django.contrib.messages.context_processors.messages",
                "lynxwort.web.ui.context.shell",
                "lynxwort.web.garages.touring.shell",
                "lynxwort.web.people.shown.shell",
            ],
            "builtins": ["lynxwort.web.ui.templatetags.lynx", "lynxwort.web.ui.templatetags.explained"],
        },
    }
]
DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": DATA_DIR / "lynxwort.sqlite3",
        "OPTIONS": {
            "timeout": 20,
            "transaction_mode": "IMMEDIATE",
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; PRAGMA foreign_keys=ON;",
        },
        "TEST": {"NAME": DATA_DIR / "test.sqlite3"},
    }
}
STATIC_URL = "/static/"
STATIC_ROOT = DATA_DIR / "static"
STATICFILES_DIRS: list[Path] = []
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "whitenoise.storage.CompressedManifestStaticFilesStorage"},
}
LANGUAGE_CODE = "en"
LANGUAGES = list(words.LANGUAGES.items())
USE_I18N = True
LOCALE_PATHS = [PACKAGE.parent / "locale"]
USE_TZ = True
TIME_ZONE = "UTC"
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = TLS or ADDRESS.startswith("https://")
SECURE_HSTS_SECONDS = 0  # a phone that had once been told "only TLS" could not come back to a plain start
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
CSRF_FAILURE_VIEW = "lynxwort.web.ui.errors.not_from_this_page"
SECURE_REFERRER_POLICY = "same-origin"
DATA_UPLOAD_MAX_MEMORY_SIZE = 5_000_000
FILE_UPLOAD_MAX_MEMORY_SIZE = 5_000_000
#: what is read; what is taken from the wire so that a page can say it is too much, instead of the connection being cut
MAX_UPLOAD_BYTES, MAX_TAKEN_BYTES = 80_000_000, 300_000_000
MAX_COURSE_BYTES = 30_000_000
DATA_UPLOAD_MAX_NUMBER_FIELDS = 5000
#: long reckoning in a process of its own
JOBS_APART = True
#: of waitress's threads: the others say at once that it is full
SERVER_THREADS, PAGES_AT_ONCE = 16, 10
AUTH_PASSWORD_VALIDATORS = [
    {
        "NAME": "django.contrib.auth.password_validation.UserAttributeSimilarityValidator",
        "OPTIONS": {"user_attributes": ("username",)},
    },
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 10}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": ["'none'"],
        "script-src": ["'self'"],
        "style-src": ["'self'"],
        "font-src": ["'self'"],
        "img-src": ["'self'", "data:"],
        "connect-src": ["'self'"],
        "worker-src": ["'self'"],
        "manifest-src": ["'self'"],
        "form-action": ["'self'"],
        "frame-ancestors": ["'none'"],
        "base-uri": ["'none'"],
    }
}
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "filters": {"no_tokens": {"()": "lynxwort.web.ui.security.NoTokens"}},
    "handlers": {"stderr": {"class": "logging.StreamHandler", "filters": ["no_tokens"]}},
    "root": {"handlers": ["stderr"], "level": "WARNING"},
    "loggers": {"django.request": {"handlers": ["stderr"], "level": "ERROR", "propagate": False}},
}
