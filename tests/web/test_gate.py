"""More asking than the machine can carry: the rest wait on a page of their own, and nothing of theirs is taken."""

import threading

from django.http import HttpResponse
from django.test import RequestFactory

from lynxwort.web.bikes.models import Draft
from lynxwort.web.ui import gate


def test_who_comes_beyond_the_places_is_asked_to_wait_at_once_and_comes_in_later(settings):
    settings.PAGES_AT_ONCE = 3
    inside, leave, found = threading.Semaphore(0), threading.Event(), []

    def slow(request):
        inside.release()
        leave.wait(20)
        return HttpResponse("in")

    door, ask = gate.Gate(slow), RequestFactory()
    threads = [threading.Thread(target=lambda: found.append(door(ask.get("/")).status_code)) for _ in range(3)]
    for thread in threads:
        thread.start()
    for _ in threads:
        assert inside.acquire(timeout=10)
    assert gate.quiet_s() == 0.0
    read, sent = door(ask.get("/")), door(ask.post("/"))
    assert (read.status_code, read["Refresh"], sent.status_code, sent.get("Refresh")) == (503, "3", 503, None)
    assert b"asks again by itself" in read.content
    assert b"nothing was changed" in sent.content
    free = gate.Gate(lambda request: HttpResponse("free"))
    assert free(ask.get("/health")).status_code == free(ask.get("/static/x.css")).status_code == 200
    leave.set()
    for thread in threads:
        thread.join(10)
    assert found == [200, 200, 200]
    assert door(ask.get("/")).status_code == 200


def test_a_place_is_given_back_by_a_page_that_breaks(settings):
    settings.PAGES_AT_ONCE = 1

    def broken(request):
        raise KeyError("broken")

    for _ in range(3):
        try:
            gate.Gate(broken)(RequestFactory().get("/"))
        except KeyError:
            continue
        raise AssertionError("asked to wait")


def test_a_press_that_is_turned_away_changes_nothing(demo, settings):
    settings.PAGES_AT_ONCE = 0
    before = Draft.objects.values().get()
    answer = demo.post(
        f"{demo.base}drive/notch/", {"version": before["version"], "moves": '[["rear_sprocket_teeth", 50]]'}
    )
    assert answer.status_code == 503
    assert Draft.objects.values().get() == before
