"""A long course is laid beside the page that waits for it: stage by stage, then ridden once."""

import logging
import threading
from dataclasses import dataclass, field

from django.db.models import Sum
from django.http import HttpResponse
from django.shortcuts import render

from lynxwort.core.errors import InputRefused
from lynxwort.core.model.inputs import Inputs
from lynxwort.web.bikes.models import Setup
from lynxwort.web.evaluation import door
from lynxwort.web.evaluation.assembled import assemble
from lynxwort.web.races.models import Course, Race
from lynxwort.web.ui.typed import Request

log = logging.getLogger(__name__)
#: a race of shorter stages in all is laid while its page is made [m]
LONG_M = 250_000.0


@dataclass(slots=True)
class Laying:
    """A race's round as far as it is laid: stages done of all of them, then ridden."""

    stages: int
    laid: int = 0
    ended: threading.Event = field(default_factory=threading.Event)

    @property
    def share(self) -> float:
        """Of the whole work [1]: the ride counts as another stage."""
        return self.laid / (self.stages + 1)


_underway: dict[tuple[int, int], Laying] = {}
_starting = threading.Lock()


def waiting_page(request: Request, setup: Setup, race: Race) -> HttpResponse | None:
    """The page that stands until the kernels are loaded and a long course is laid; None when nothing is waited for."""
    if request.method != "GET":
        return None
    if not door.is_warm():
        door.warm_in_background()
        return render(request, "bench/warming.html")
    found = None if request.htmx else waited_for(setup, race)
    return None if found is None else render(request, "bench/laying.html", {"laying": found})


def waited_for(setup: Setup, race: Race) -> Laying | None:
    """What a page of this race has to wait for, begun when it is first asked for; None when nothing."""
    mark = (race.pk, race.version)
    with _starting:
        known = _underway.get(mark)
        if known is None:
            known = _underway[mark] = _begun(setup, race)
    return None if known.ended.is_set() else known


def _begun(setup: Setup, race: Race) -> Laying:
    keys = [stage["course_key"] for stage in race.document["stages"]]
    made = Laying(stages=len(keys))
    there = Course.objects.filter(garage=race.garage_id, blob__in=keys).values("blob_id").distinct()
    length = there.aggregate(all=Sum("length_m"))["all"] or 0.0
    if length < LONG_M:
        made.ended.set()
        return made
    try:
        inputs = assemble(setup, race, setup.head.values if setup.head else setup.draft.values)
    except InputRefused:  # the page itself says so, in words
        made.ended.set()
        return made
    threading.Thread(target=_lay, args=(inputs, made), name="laying", daemon=True).start()
    return made


def _lay(inputs: Inputs, made: Laying) -> None:
    """Lay each stage and ride the race once: what the page then asks for is at hand."""
    from lynxwort.core.derived.track import Round

    try:
        cache = door.stage_cache()
        for k in range(1, made.stages + 1):
            part = inputs.race.model_copy(update={"stages": inputs.race.stages[:k]})
            made.laid = len(Round.of(inputs.model_copy(update={"race": part}), cache).courses)
        door.report_of(inputs)
    except InputRefused:
        pass  # the page itself says so, in words
    except Exception:  # the page that waits must not wait for ever: it meets the same, and says it
        log.exception("a long course was not laid")
    finally:
        made.ended.set()
