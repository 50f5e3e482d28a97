"""Pages are brought in when they are asked for: the first of them needs none of the reckoning, and none is missing."""

import os
import subprocess
import sys
from importlib import import_module

from django.urls import URLPattern, get_resolver

from lynxwort.web.jobs import worker
from lynxwort.web.ui import lazily


def patterns(resolver):
    for p in resolver.url_patterns:
        yield from [p] if isinstance(p, URLPattern) else patterns(p)


def test_every_address_has_its_page_with_the_same_lock_on_its_door():
    lazily.load()
    found = [p.callback for p in patterns(get_resolver())]
    late = [v for v in found if v.__module__ in lazily._modules]
    assert len(late) > 60
    for view in late:
        real = getattr(import_module(view.__module__), view.__name__)
        assert view.login_required == getattr(real, "login_required", True), view
        assert not getattr(real, "csrf_exempt", False), view
    assert [v.__name__ for v in late if not v.login_required] == [
        *("worker", "manifest", "join", "authority", "authority_file")
    ]


FIRST = """
import sys, django
django.setup()
from django.urls import reverse, get_resolver
reverse("stand"), reverse("bench:station", args=[1, 2, "drive"])
get_resolver().resolve("/bench/1/2/drive/notch/")
import lynxwort.web.wsgi, lynxwort.web.machine.serve
print(sorted({m.split(".")[0] for m in sys.modules} & {"scipy", "numba", "pint"}))
from lynxwort.web.jobs.worker import work_of
print(work_of("sweep").__module__, work_of("sensitivities").__name__)
"""


def test_addresses_need_no_reckoning_and_a_job_finds_its_work():
    env = os.environ | {"PYTHONPATH": "src", "DJANGO_SETTINGS_MODULE": "lynxwort.web.settings"}
    done = subprocess.run([sys.executable, "-c", FIRST], env=env, capture_output=True, text=True, check=True)
    assert done.stdout.splitlines()[0] == "[]"
    assert done.stdout.splitlines()[1].startswith("lynxwort.web.stations.drive.sprockets")
    assert worker.work_of("sweep").__module__ == "lynxwort.web.stations.drive.sprockets"
