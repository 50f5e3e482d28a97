"""The docs as a site: built without a warning, every link of it alive, nothing fetched from elsewhere."""

import re
from html.parser import HTMLParser
from pathlib import Path
from urllib.parse import unquote, urljoin, urlsplit

import pytest

from lynxwort.core.report import STATIONS
from tests.installed import site_built

#: attributes that make a browser fetch, and of which elements
FETCHED = {"script": "src", "img": "src", "link": "href", "source": "src", "iframe": "src"}


class Read(HTMLParser):
    """A page's ids, links and what it has fetched."""

    def __init__(self, text: str) -> None:
        super().__init__()
        self.ids, self.links, self.fetched = set(), [], []
        self.feed(text)

    def handle_starttag(self, tag, attrs):
        given = dict(attrs)
        self.ids |= {given[k] for k in ("id", "name") if given.get(k)}
        if tag == "a" and given.get("href"):
            self.links.append(given["href"])
        if FETCHED.get(tag) in given and given.get("rel") not in ("canonical", "next", "prev"):
            self.fetched.append(given[FETCHED[tag]])


@pytest.fixture(scope="module")
def site(tmp_path_factory):
    return site_built(tmp_path_factory.mktemp("site"))


def test_every_link_is_alive_and_nothing_is_fetched_from_elsewhere(site):
    pages = {page: Read(page.read_text()) for page in site.rglob("*.html") if page.name != "404.html"}
    assert len(pages) > 60
    dead = []
    for page, read in pages.items():
        base = page.as_uri()
        for link in [*read.links, *read.fetched]:
            to = urlsplit(urljoin(base, link))
            if to.scheme in ("http", "https", "mailto"):
                continue
            file = Path(unquote(to.path))
            if not file.is_file() or (to.fragment and file in pages and unquote(to.fragment) not in pages[file].ids):
                dead.append((page.name, link))
        away = [f for f in read.fetched if urlsplit(f).scheme in ("http", "https") or f.startswith("//")]
        assert away == [], page.name
        # a diagram's block would have the theme fetch its drawing library
        assert 'class="mermaid"' not in page.read_text(), page.name
    assert dead == []


def test_each_station_has_its_guide(site):
    for station in STATIONS:
        page = (site / f"guides/{station}.html").read_text()
        for said in ("It asks", "How it reckons", "What it cannot know"):
            assert f"<strong>{said}" in page, (station, said)
        assert "<!--" not in re.sub(r"<!-- .*? -->", "", page)
        assert f"<code>{station}." in page, "its figures"
    drive = (site / "guides/drive.html").read_text()
    assert "Rear sprocket" in drive
    assert "<code>hill</code>" in drive


def test_the_page_of_outside_checks_says_what_was_found(site):
    page = (site / "validation.html").read_text()
    rows = re.findall(
        r"<tr>\s*<td>(.*?)</td>\s*<td>(.*?)</td>\s*<td>(.*?)</td>\s*<td>(.*?)</td>\s*<td>(.*?)</td>", page, re.S
    )
    assert len(rows) >= 450
    for _what, source, expected, _within, found in rows:
        assert source
        assert expected
        assert found
    # by hand, of three: NIST SP 811's pound, Fisher's maize, the standard atmosphere at the ground
    assert any("avoirdupois pound" in s and e == f == "0.453592" for _w, s, e, _n, f in rows)
    assert any("maize" in s and e == "2.148" for _w, s, e, _n, f in rows)
    assert any("A.isa.rho0" in w and f == "1.225" for w, _s, e, _n, f in rows)
