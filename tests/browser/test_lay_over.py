"""An answer laid over the page leaves what a fresh page would show, node for node, and nothing of the person's is lost."""

import random

import pytest
from playwright.sync_api import Page, expect

from lynxwort.web.bikes.models import Revision

STATIONS = ("purpose", "baseline", "chassis", "damping", "fuelling", "drive", "range", "kit")
#: the bench without what belongs to this window: what it has opened, what is under way, the forms it made, what it draws
PLAIN = """() => {
  const bench = document.getElementById('bench').cloneNode(true);
  bench.querySelectorAll('[data-own]').forEach((e) => e.remove());
  bench.querySelectorAll('[data-drawn]').forEach((e) => e.replaceChildren());
  bench.querySelectorAll('details').forEach((e) => e.removeAttribute('open'));
  bench.querySelectorAll('[name=csrfmiddlewaretoken]').forEach((e) => e.removeAttribute('value'));
  bench.querySelectorAll('[class]').forEach((e) => {
    [...e.classList].filter((c) => c.startsWith('htmx-') || (c === 'open' && e.hasAttribute('x-bind:class'))).forEach((c) => e.classList.remove(c));
    if (!e.className) e.removeAttribute('class');
  });
  bench.querySelectorAll('#outcome').forEach((e) => e.replaceChildren());
  bench.removeAttribute('class');
  // in which order an element came by its attributes means nothing
  bench.querySelectorAll('*').forEach((e) => {
    const all = [...e.attributes].map((a) => [a.name, a.value]).sort();
    all.forEach(([name]) => e.removeAttribute(name));
    all.forEach(([name, value]) => e.setAttribute(name, value));
  });
  return bench.outerHTML.replace(/></g, '>\\n<').split('\\n').map((line) => line.trim()).filter(Boolean);
}"""


def settled(page: Page) -> None:
    """Every group open, and all that was asked for has come."""
    page.evaluate("document.querySelectorAll('.notch-group').forEach((g) => { g.open = true; })")
    page.wait_for_load_state("networkidle")
    expect(page.locator("#notches [data-stale]")).to_have_count(0)
    expect(page.locator("#findings[hx-get]")).to_have_count(0)
    expect(page.locator(".htmx-request")).to_have_count(0)


def same_as_fresh(w, page: Page) -> None:
    settled(page)
    fresh = w.another()
    fresh.goto(page.url)
    settled(fresh)
    there, here = fresh.evaluate(PLAIN), page.evaluate(PLAIN)
    fresh.close()
    assert here == there, [(a, b) for a, b in zip(here, there, strict=False) if a != b][:4]


@pytest.mark.parametrize("small", [False, True])
def test_after_random_steps_the_page_is_as_if_made_anew(demo, small):
    w = demo(phone=small)
    page, dice = w.page, random.Random(7 + small)
    for station in STATIONS[2::2] if small else STATIONS:
        w.go(f"{w.bench}/{station}/")
        for _turn in range(9):
            cells = page.locator(".cell-form button")
            deed = dice.choice(["step"] * 4 + ["rest"] * 3 + ["undo", "place", "press twice"])
            if deed == "place" and page.locator("a.next").count():
                page.locator("a.next").click()
            elif deed == "undo" and page.locator("#take-back").count():
                page.evaluate("document.getElementById('take-back').click()")
            elif deed == "rest" and cells.locator("visible=true").count():
                button = cells.locator("visible=true").nth(dice.randrange(cells.locator("visible=true").count()))
                button.hover()
                page.wait_for_timeout(dice.choice([0, 80, 200]))
                button.click()
            elif cells.count():
                at = dice.randrange(cells.count())
                press = "([at, times]) => { for (let i = 0; i < times; i++) document.querySelectorAll('.cell-form button')[at].click(); }"
                page.evaluate(press, [at, 2 if deed == "press twice" else 1])
            page.wait_for_load_state("networkidle")
            expect(page.locator(".htmx-request")).to_have_count(0)
        same_as_fresh(w, page)
    w.go(f"{w.bench}/drive/")
    page.evaluate("document.querySelector('.rail a[data-key=\x225\x22]').click()")
    expect(page).to_have_url(w.base + f"{w.bench}/fuelling/")
    w.move("back")
    same_as_fresh(w, page)


def test_what_is_typed_opened_and_in_focus_stays_and_a_second_press_counts(demo):
    w = demo()
    page = w.page
    w.go(f"{w.bench}/chassis/")
    settled(page)
    group = page.locator(".notch-group").first
    group.locator("summary").first.click()
    # a reason half written, and an exact value half typed, while another row is stepped
    page.evaluate("document.querySelector('#more-shock_preload_m').click()")
    page.locator("#keep summary").click()
    page.locator("#reason").fill("softer for the")
    row = page.locator(".notch-row:visible").nth(1)
    name = row.get_attribute("data-tunable")
    row.locator("summary").click()
    row.locator("input[name=typed]").fill("12")
    w.page.evaluate(
        """() => { const [a, b] = [...document.querySelectorAll('.cell-form button[data-side=more]')]; a.click(); b.click(); }"""
    )
    page.wait_for_load_state("networkidle")
    expect(page.locator("ul.chips li")).to_have_count(2)
    expect(page.locator("#reason")).to_have_value("softer for the")
    expect(page.locator(f"#typed-{name}")).to_have_value("12")
    expect(page.locator(f"#typed-{name}")).to_be_focused()
    assert not group.evaluate("g => g.open")
    # refused: said at once, what was typed stays; then taken, and the form is put away
    w.expect = {422, 409}
    page.locator(f"#typed-{name}").fill("3 kg")
    page.keyboard.press("Enter")
    expect(page.locator("p.refusal")).to_be_visible()
    expect(page.locator(f"#typed-{name}")).to_have_value("3 kg")
    assert page.locator("#bench").get_attribute("data-typed") == "3 kg"
    assert page.locator(".exact-form").get_attribute("data-refusal") == page.locator("p.refusal").text_content()
    expect(page.locator(f"#typed-{name}")).to_be_in_viewport()
    same_as = page.locator(f"[data-tunable-value={name}]").text_content()
    page.locator(f"#typed-{name}").fill(same_as)
    page.keyboard.press("Enter")
    expect(page.locator("p.refusal")).to_have_count(0)
    expect(page.locator(f"#typed-{name}")).to_have_count(0)
    expect(page.locator(f"#now-{name}")).to_be_focused()
    # another window moved the draft: both values, then this one's
    other = w.another()
    other.goto(page.url)
    settled(other)
    before = other.locator("#bench").get_attribute("data-version")
    other.evaluate("document.querySelector('#more-shock_preload_m').click()")
    expect(other.locator("#bench")).not_to_have_attribute("data-version", before)
    page.evaluate("document.querySelector('#less-shock_preload_m').click()")
    page.get_by_role("button", name="Take this window's value").click()
    expect(page.locator(".conflict")).to_have_count(0)
    same_as_fresh(w, page)


def test_an_answer_to_a_row_that_was_replaced_meanwhile_is_still_laid_over(demo):
    """Seen on a slow machine: a row is pressed while its group is being made anew, and the bench stood in the bench."""
    w = demo()
    w.go(f"{w.bench}/drive/")
    settled(w.page)

    def late(route):
        answer = route.fetch()
        w.page.evaluate("document.getElementById('more-rear_sprocket_teeth').closest('form').remove()")
        route.fulfill(response=answer)

    w.page.route("**/drive/notch/", late)
    w.page.locator("#more-rear_sprocket_teeth").click()
    expect(w.page.locator("[data-tunable-value='rear_sprocket_teeth']")).to_have_text("49")
    expect(w.page.locator("#bench #bench")).to_have_count(0)
    same_as_fresh(w, w.page)


HEARD = """() => {
  window.heard = [];
  const live = '[aria-live], [role=status], [role=alert]';
  new MutationObserver((records) => {
    const regions = new Set(records.map((r) => (r.target.nodeType === 1 ? r.target : r.target.parentElement)?.closest(live)));
    regions.forEach((e) => { if (e && e.checkVisibility() && e.textContent.trim()) window.heard.push(e.textContent.trim()); });
  }).observe(document.body, { subtree: true, childList: true, characterData: true });
}"""


def test_a_step_made_ready_while_the_pointer_rests_is_read_out_once(demo):
    w = demo()
    page = w.page
    w.go(f"{w.bench}/drive/")
    settled(page)
    page.evaluate(HEARD)
    asked = []
    page.on("request", lambda r: asked.append(r.url.split("?")[0].rsplit("/", 2)[1]))
    button = page.locator("#row-rear_sprocket_teeth button[data-side=more]")
    with page.expect_response("**/ahead/**"):
        button.hover()
    for teeth in ("49", "50", "51"):
        with page.expect_response("**/notch/"):
            page.mouse.down()
            page.mouse.up()
        settled(page)
        answer = page.locator(".answer h1").inner_text().strip()
        heard = [h for h in page.evaluate("window.heard.splice(0)") if answer in h]
        assert heard == [f"Rear sprocket {teeth}. {answer}"]
    # who steps on and on has the next one made ready where the pointer is
    assert asked.count("ahead") >= 3
    assert asked.index("ahead") < asked.index("notch")
    page.locator("#take-back").click()
    settled(page)
    assert [h for h in page.evaluate("window.heard.splice(0)") if "Undone" in h] == [
        f"Undone. {page.locator('.answer h1').inner_text().strip()}"
    ]


def rested(page: Page, button) -> None:
    """The pointer has rested until the page has the answer, and what its neighbours would do."""
    with page.expect_response(lambda r: "/neighbours/?moves" in r.url):
        button.hover()
    page.wait_for_load_state("networkidle")


def test_a_step_stands_before_its_answer_and_goes_back_where_it_is_not_taken(demo):
    w = demo()
    page = w.page
    w.go(f"{w.bench}/fuelling/")
    w.run_jobs()  # while ranges are still worked out nothing is made ready
    w.go(f"{w.bench}/fuelling/")
    settled(page)
    now = {t: page.locator(f"[data-tunable-value='{t}']") for t in ("main_jet", "needle_clip")}
    chips = page.locator("ul.chips li")
    before, at_once, sent = now["main_jet"].text_content(), [], []

    def held(route):
        """What stands while the answer is still on its way."""
        page.wait_for_timeout(150)
        at_once.append((now["main_jet"].text_content(), chips.count(), page.locator(".working").is_visible()))
        route.continue_()

    page.on("request", lambda r: sent.append(r.url.split("?")[0].rsplit("/", 2)[1]))
    page.route("**/fuelling/notch/", held)
    more = page.locator("#more-main_jet")
    rested(page, more)
    sent.clear()
    with page.expect_response("**/fuelling/notch/") as answer:
        more.click()
    assert answer.value.status == 204
    settled(page)
    after = now["main_jet"].text_content()
    assert at_once == [(after, 1, True)] != [(before, 1, True)]
    # its neighbours were told while the pointer rested: nothing but the press itself, and the next rest's, was sent
    assert sent[0] == "notch"
    assert sent.index("ahead") < [*sent, "neighbours"].index("neighbours")
    same_as_fresh(w, page)

    # out of reach, then turned away: it goes back, with the row's last notch, and says so; the next press counts
    w.expect |= {"offline", 503}
    page.unroute("**/fuelling/notch/")
    clip, stood = now["needle_clip"].text_content(), page.locator("#bench").get_attribute("data-version")
    while page.locator("#more-needle_clip").count():
        page.locator("#more-needle_clip").click()
        expect(now["needle_clip"]).not_to_have_text(clip)
        settled(page)
        clip, stood = now["needle_clip"].text_content(), page.locator("#bench").get_attribute("data-version")
    page.locator("#less-needle_clip").click()
    settled(page)
    last, clip, stood = clip, now["needle_clip"].text_content(), page.locator("#bench").get_attribute("data-version")
    for note, refuse in (("#offline", lambda r: r.abort()), ("#busy", lambda r: r.fulfill(status=503, body="full"))):
        shown = []

        def refused(route, *, shown=shown, refuse=refuse):
            page.wait_for_timeout(150)
            shown.append((now["needle_clip"].text_content(), page.locator("#more-needle_clip").count()))
            refuse(route)

        w.go(f"{w.bench}/fuelling/")
        page.route("**/fuelling/notch/", refused)
        settled(page)
        rested(page, page.locator("#more-needle_clip"))
        page.locator("#more-needle_clip").click()
        expect(page.locator(note)).to_be_visible()
        assert shown == [(last, 0)]
        expect(now["needle_clip"]).to_have_text(clip)
        expect(page.locator("#bench")).to_have_attribute("data-version", stood)
        expect(page.locator(".pressed, .htmx-request")).to_have_count(0)
        same_as_fresh(w, page)
        page.unroute("**/fuelling/notch/")
    # what was pressed while it stood there goes no further: nothing is kept that was not seen
    numbers, waits = Revision.objects.count(), []
    page.route("**/fuelling/notch/", lambda r: waits.append(r))
    w.go(f"{w.bench}/fuelling/")
    settled(page)
    rested(page, page.locator("#more-needle_clip"))
    page.locator("#more-needle_clip").click()
    expect(now["needle_clip"]).to_have_text(last)
    page.locator("#keep summary").click()
    page.locator("#reason").fill("one groove up")
    page.locator("#keep form button").click()
    sent.clear()
    waits[0].fulfill(status=503, body="full")
    expect(now["needle_clip"]).to_have_text(clip)
    page.wait_for_timeout(1_000)
    page.unroute("**/fuelling/notch/")
    assert "keep" not in sent
    assert Revision.objects.count() == numbers
    page.locator("#keep summary").click()
    settled(page)
    page.locator("#more-needle_clip").click()
    expect(now["needle_clip"]).to_have_text(last)
    expect(page.locator("#busy")).to_be_hidden()
    same_as_fresh(w, page)
