"""Spanish: every text has its words, and every page says them: nothing left in English, no number with a point, no attribute with a comma."""

import json
import os
import re
import subprocess
import sys
from pathlib import Path

import pytest
from babel.messages.catalog import Catalog
from django.core.exceptions import ValidationError
from django.utils import translation
from tools import catalogue

from lynxwort.core.model.base import field_facts
from lynxwort.core.model.race.race import RaceAir
from lynxwort.web.garages.models import User
from lynxwort.web.ui.forms import QuantityField
from lynxwort.words import written_in
from tests.odd import pages
from tests.tongue import marked, names, pointed, untranslated
from tests.web.conftest import loaded
from tests.web.forms import sent_back

ROOT = Path(__file__).parents[2]
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


def test_every_text_has_its_words_with_the_same_holes():
    every = catalogue.messages()
    assert catalogue.POT.read_bytes() == catalogue.written(every)
    assert [path.parts[-3] for path in catalogue.languages()] == ["es"]
    for path in catalogue.languages():
        language = catalogue.translated(every, path)
        assert not catalogue.lacking(language)
        assert not catalogue.parted(language)
        assert catalogue.po_and_mo(language) == (path.read_bytes(), path.with_suffix(".mo").read_bytes())


#: richer and leaner, and what is never to be done, must not be lost on the way: English of a text, Spanish of its words
SAID = (
    (re.compile(r"\b(?:rich|enrich)", re.IGNORECASE), re.compile(r"\bric[oa]|riqueza|enriquec", re.IGNORECASE)),
    (
        re.compile(r"\blean(?:er|est|s)\b|(?<!same )\blean(?:ed)?\b(?! on\b)", re.IGNORECASE),
        re.compile(r"pobre|empobre", re.IGNORECASE),
    ),
    (re.compile(r"\bnever\b", re.IGNORECASE), re.compile(r"nunca|ningun|nadie|no vuelven", re.IGNORECASE)),
)
#: what says it without the word
WITHOUT = {"weak, pinging, hanging revs, white plug"}


def _numbers(text):
    text = re.sub(r"%\([a-z_]+\)[sd]|\{[^}]*\}", "", text)
    for sign, written in {"½": "1/2", "¼": "1/4", "¾": "3/4", "⅛": "1/8"}.items():
        text = text.replace(sign, written)
    return sorted(re.sub(r"[.,\u202f]", "", n).lstrip("0") for n in re.findall(r"\d*(?:[.,\u202f]?\d+)+", text))


def test_no_number_no_direction_and_no_warning_is_lost_in_translation():
    language = catalogue.translated(catalogue.messages(), catalogue.languages()[0])
    lost = []
    for message in language:
        text, words = (m[-1] if isinstance(m, tuple | list) else m for m in (message.id, message.string))
        if text and _numbers(text) != _numbers(words):
            lost.append(text)
        for english, spanish in SAID:
            bare = re.sub(r"\{[^}]*\}", "", text)
            if (
                text not in WITHOUT
                and bool(english.search(bare)) != bool(spanish.search(words))
                and not (english is SAID[2][0] and not english.search(bare))
            ):
                lost.append(text)
    assert not lost


def test_a_text_without_words_or_with_other_holes_is_seen():
    language = Catalog(locale="es")
    language.add("keep", string="")
    language.add("%(n)s left, {end}", string="quedan %(m)s, {end}")
    language.add(("%(n)s stop", "%(n)s stops"), string=("una parada", "%(n)s paradas"))
    language.add(("%(n)s lap", "%(n)s laps"), string=("%(n)s vuelta", ""))
    assert catalogue.lacking(language) == ["keep", "%(n)s lap"]
    assert catalogue.parted(language) == ["quedan %(m)s, {end}", "una parada"]


def test_the_command_line_speaks_the_persons_language(tmp_path):
    (tmp_path / "x.json").write_text("{")
    said = {}
    for language in ("es_ES.UTF-8", "en_GB.UTF-8", "fr_FR.UTF-8"):
        environment = {**os.environ, "PYTHONPATH": "src", "LANGUAGE": "", "LC_ALL": language}
        run = [sys.executable, "-m", "lynxwort"]
        told = subprocess.run(
            [*run, "evaluate", tmp_path / "x.json"], capture_output=True, text=True, env=environment, cwd=ROOT
        )
        help_text = subprocess.run(
            [*run, "stops", "--help"], capture_output=True, text=True, env=environment, cwd=ROOT
        ).stdout
        error = json.loads(told.stdout)["errors"][0]
        said[language] = (error["code"], error["message"], help_text.split("\n")[0])
    assert said["es_ES.UTF-8"] == ("not_json", "Esto no es un documento JSON.", "uso: lynxwort stops [-h] file")
    assert said["en_GB.UTF-8"] == said["fr_FR.UTF-8"] == (
        "not_json", "This is not a JSON document.", "usage: lynxwort stops [-h] file"
    )  # fmt: skip


def test_typed_numbers_are_meant_as_the_language_writes_them(demo):
    """1,234 is a thousand to one and a decimal to the other; sheets have their headings in the person's words."""
    address = f"/riders/{demo.race.rider_id}/"
    page = demo.get(address, headers={"accept-language": "es"}).content.decode()
    assert 'value="88,0"' in page
    for typed, kept in (("82,125", 82.125), ("82.5", 82.5)):
        form = sent_back(demo.get(address).content.decode(), address)
        answer = demo.post(address, form | {"rider.mass_in_gear_kg": typed}, headers={"accept-language": "es"})
        assert answer.status_code == 302, answer.content.decode()
        demo.race.rider.refresh_from_db()
        assert demo.race.rider.document["mass_in_gear_kg"] == pytest.approx(kept)
    height = QuantityField(field_facts(RaceAir, "reading_height_m"), "metric")
    with translation.override("en"):
        written_in("en")
        with pytest.raises(ValidationError, match="may mean"):
            height.clean("1,200")
    written_in("es")
    assert height.clean("1,200") == pytest.approx(1.2)
    assert height.clean("1200,5") == pytest.approx(1200.5)
    written_in("en")
    head = demo.get(f"{demo.base}crew.csv", headers={"accept-language": "es"}).content.decode().splitlines()[0]
    assert head == "qué,dónde,quién,pronto,probable,tarde,luz,por hacer,pasó,está allí,preparado"


def test_a_persons_own_language_goes_before_the_browsers(demo):
    demo.user = User.objects.get(username="demo")
    demo.user.language = "es"
    demo.user.save()
    assert '<html lang="es"' in demo.get("/", headers={"accept-language": "en"}).content.decode()
    demo.user.language = ""
    demo.user.save()
    assert '<html lang="en"' in demo.get("/", headers={"accept-language": "fr"}).content.decode()
    assert "Accept-Language" in demo.get("/").headers["Vary"]


def test_what_is_loaded_stays_loaded_in_another_language(demo):
    """Two people of two languages tick one list: what is kept of a thing is no word of either."""
    address = f"{demo.base}card/week/load/"

    def keys(language):
        page = demo.get(address, headers={"accept-language": language}).content.decode()
        return re.findall(r'<button name="(packed|open)" value="([^"]+)"', page)

    assert keys("en") == keys("es")
    first = keys("es")[0][1]
    demo.post(address, {"packed": first}, headers={"accept-language": "es"})
    assert keys("en")[0] == keys("es")[0] == ("open", first)
