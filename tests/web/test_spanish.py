"""Every page in Spanish: nothing left in English, no number with a point, no attribute with a comma."""

import re

import pytest

from tests.odd import pages
from tests.tongue import marked, names, pointed, untranslated
from tests.web.conftest import loaded

#: where a comma in an attribute would be no number any more
NUMBERS = re.compile(r'\s(?:min|max|step|x|y|x1|x2|y1|y2|cx|cy|r|width|height|data-si|data-at)="-?\d+,\d+')
#: ways to write a number, both ways
BOTH = "/how-to-write/"


@pytest.mark.parametrize("race", ["brackenmere", "saltern", "gannach", "hollowood"])
def test_every_page(db, client, race):
    here, found = loaded(client, race), {}
    known = names()
    with marked("es"):
        for path in pages(here.setup, here.race):
            answer = here.get(path, headers={"accept-language": "es-ES,es;q=0.9,en;q=0.5"})
            if answer.status_code != 200 or not answer.headers["Content-Type"].startswith("text/html"):
                continue
            page = answer.content.decode()
            assert answer.headers["Content-Language"] == "es"
            assert '<html lang="es"' in page or "<html" not in page
            said = [*untranslated(page, known), *NUMBERS.findall(page), *pointed(page)] if path != BOTH else []
            for text in said:
                found.setdefault(text, path)
    assert not found
