"""Serve the pages, show the demo, keep back-ups, let people in: what is done with an installation."""

import argparse
import os
from typing import Any

from lynxwort.cli.tongue import _, language
from lynxwort.core.errors import InputRefused, Refusal


def add(verbs: Any) -> None:
    """Add the verbs to the command line."""
    for name, what, run in (
        ("demo", _("load the invented demo and serve it"), _demo),
        ("serve", _("serve your own garage"), _serve),
    ):
        verb = verbs.add_parser(name, help=what)
        verb.add_argument(
            "--host", help=_("the address served on; 0.0.0.0 for the van's Wi-Fi, in clear without --tls")
        )
        verb.add_argument("--port", help=_("the port, 8000 unless said"))
        verb.add_argument(
            "--tls", action="store_true", help=_("serve over TLS, with an authority of this machine's own")
        )
        verb.set_defaults(run=run)
    verb = verbs.add_parser("backup", help=_("write a back-up of the whole installation, also while it is served"))
    verb.add_argument("file", nargs="?", help=_("without: on the shelf in the data folder"))
    verb.set_defaults(run=lambda arguments: _django("backup", *filter(None, [arguments.file])))
    verb = verbs.add_parser("restore", help=_("put a back-up in the place of what stands; Lynxwort stopped"))
    verb.add_argument("file")
    verb.set_defaults(run=lambda arguments: _django("restore", arguments.file))
    verb = verbs.add_parser("adduser", help=_("add a person with a garage of their own; the password is asked"))
    verb.add_argument("name")
    verb.add_argument("--garage", default="", help=_("what the garage is called"))
    verb.set_defaults(run=lambda arguments: _django("adduser", arguments.name, "--garage", arguments.garage))
    verb = verbs.add_parser("where", help=_("say where data and compiled kernels lie"))
    verb.set_defaults(run=_where)


def _django(*words: str) -> None:
    """One of the pages' own commands. Raises InputRefused (no_pages) where only the core is installed."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "lynxwort.web.settings")
    try:
        import django
        from django.core.management import execute_from_command_line
        from django.utils import translation
    except ImportError:
        raise InputRefused(Refusal(path="", code="no_pages")) from None
    django.setup()
    translation.activate(language())
    execute_from_command_line(["lynxwort", *words])


def _say(arguments: argparse.Namespace) -> None:
    for name, value in (("HOST", arguments.host), ("PORT", arguments.port), ("LYNXWORT_TLS", arguments.tls and "1")):
        if value:
            os.environ[name] = value


def _made_ready() -> None:
    _django("warm")
    _django("migrate", "--verbosity", "0")


def _served() -> None:
    _django("collectstatic", "--noinput", "--verbosity", "0")
    _django("serve")


def _demo(arguments: argparse.Namespace) -> None:
    _say(arguments)
    os.environ["LYNXWORT_DEMO"] = "1"
    _made_ready()
    _django("load_demo")
    _served()


def _serve(arguments: argparse.Namespace) -> None:
    _say(arguments)
    _made_ready()
    _served()


def _where(arguments: argparse.Namespace) -> dict[str, str]:
    from lynxwort import places

    return {"data": str(places.data()), "demo": str(places.data(demo=True)), "kernels": os.environ["NUMBA_CACHE_DIR"]}
