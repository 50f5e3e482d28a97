"""Settings of the tests: a data directory of their own, plain static files, a file database for the live server."""

import os
import tempfile
from pathlib import Path

os.environ["LYNXWORT_DATA"] = tempfile.mkdtemp(prefix="lynxwort-test-")
os.environ["LYNXWORT_DEMO"] = "1"
os.environ.setdefault("NUMBA_CACHE_DIR", str(Path(__file__).parents[1] / ".data" / "numba"))

from lynxwort.web.settings import *  # noqa: F403
from lynxwort.web.settings import MIDDLEWARE

STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
}
MIDDLEWARE = [m for m in MIDDLEWARE if "whitenoise" not in m]
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
ALLOWED_HOSTS = ["*"]
# a process beside would not see the rows of a test that is taken back; tests/web/test_apart.py looks at the processes themselves
JOBS_APART = False
