"""Kit's rooms: items, wheels, brakes."""

from typing import Any

from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.utils.translation import gettext as _
from django.utils.translation import ngettext
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from lynxwort.core.errors import InputRefused
from lynxwort.web.bench.views import base_of, kept_bench, rows_of
from lynxwort.web.bikes.models import Bike
from lynxwort.web.bikes.services import change_bike
from lynxwort.web.races.models import Race
from lynxwort.web.races.services import OF_RULES, change_facts, facts_of
from lynxwort.web.stations.kit import feel, preparing, running
from lynxwort.web.stations.kit import items as bolted
from lynxwort.web.stations.kit import wheels as rolled
from lynxwort.web.stations.kit.forms import (
    BrakesForm,
    BuildForm,
    ControlsForm,
    CoolingForm,
    ElectricsForm,
    ItemForm,
    RulesForm,
    SheetForm,
    StrokeForm,
    WheelsForm,
)
from lynxwort.web.stations.shell import room
from lynxwort.web.ui.stale import edited
from lynxwort.web.ui.typed import Request, whole_number
from lynxwort.words.refusals import explain


def _words(request: Request, refused: InputRefused) -> str:
    return " ".join(
        f"{r.path.removeprefix('file')} {explain(r, preset=request.preset, translate=_)}".strip()
        for r in refused.refusals
    )


def _own(request: Request, setup: int, race: int) -> Bike:
    row, _race = rows_of(request, setup, race)
    return get_object_or_404(Bike, pk=row.bike_id, garage=request.garage)


def _facts(request: Request, setup: int, race: int, kind: type, own: str, shown: Any) -> HttpResponse:
    """A room with a form of the kit's facts behind what it shows."""

    def make() -> Any:
        row = _own(request, setup, race)
        sent = request.POST if request.method == "POST" else None
        form = kind(sent, preset=request.preset, current=row.document.get("kit", {}))
        form.row = row
        return form

    def save(form: Any) -> None:
        parts = {path.split(".")[0] for path, *_rest in form.spec}
        made = form.document()

        def change(document: dict[str, Any]) -> dict[str, Any]:
            kept = {k: v for k, v in document.get("kit", {}).items() if k not in parts}
            # what the form does not ask stays as it is
            others = {p: {n: v for n, v in form.current.get(p, {}).items() if f"{p}.{n}" not in form.fields}
                      for p in parts if isinstance(form.current.get(p), dict)}  # fmt: skip
            asked = {p: others.get(p, {}) | made[p] if isinstance(made.get(p), dict) else made[p] for p in made}
            return document | {"kit": kept | {p: o for p, o in others.items() if o} | asked}

        change_bike(form.row, change, seen=form.row.document)

    form, status = edited(request, make, save)
    if status == 302:
        messages.success(request, _("Kept among the bike's facts."))
        return redirect(f"{base_of(setup, race)}kit/{own}/")
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    return room(request, bench, "kit", own, {"form": form, "open": status != 200} | shown(bench), status=status)


@require_http_methods(["GET", "POST"])
def wheels(request: Request, setup: int, race: int) -> HttpResponse:
    """Both tyres as they are, every wheel that is owned, and what is known of them."""
    return _facts(request, setup, race, WheelsForm, "wheels", lambda b: rolled.shown(b, request.preset))


@require_http_methods(["GET", "POST"])
def brakes(request: Request, setup: int, race: int) -> HttpResponse:
    """The brakes beside what else could be on, and what is known of them."""
    return _facts(request, setup, race, BrakesForm, "brakes", lambda bench: feel.brakes(bench, request.preset))


@require_http_methods(["GET", "POST"])
def controls(request: Request, setup: int, race: int) -> HttpResponse:
    """Bars, hands and clutch, and what is known of them."""
    return _facts(request, setup, race, ControlsForm, "controls", feel.controls)


@require_http_methods(["GET", "POST"])
def items(request: Request, setup: int, race: int) -> HttpResponse:
    """What is bolted on and can be; one of one's own, or another weight of one that is there."""
    which = request.POST.get("id", request.GET.get("item", ""))

    def make() -> ItemForm:
        row = _own(request, setup, race)
        known = next((i for i in row.document.get("kit", {}).get("items", ()) if i["id"] == which), None)
        form = ItemForm(request.POST if request.method == "POST" else None, preset=request.preset, current=known)
        form.row, form.editing = row, which if known else ""
        form.listed(row.document.get("kit", {}).get("items", []))
        return form

    def save(form: ItemForm) -> None:
        bolted.keep(form.row, form.document(), form.editing, form.row.document if form.editing else None)

    form, status = edited(request, make, save)
    if status == 302:
        messages.success(request, _("Kept. It is on when you put it on."))
        return redirect(f"{base_of(setup, race)}kit/items/")
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    context = {"form": form, "sheet": SheetForm(), "editing": form.editing, "open": form.is_bound or form.editing}
    return room(request, bench, "kit", "items", context | bolted.shown(bench, request.preset), status=status)


@require_http_methods(["GET", "POST"])
def cooling(request: Request, setup: int, race: int) -> HttpResponse:
    """The coolant on the lap and in a queue, what each thing would do, and what is known of the radiators."""
    return _facts(request, setup, race, CoolingForm, "cooling", lambda bench: running.heat(bench, request.preset))


@require_http_methods(["GET", "POST"])
def electrics(request: Request, setup: int, race: int) -> HttpResponse:
    """Generator, loads, battery, wires and light, and what is known of them."""
    return _facts(
        request, setup, race, ElectricsForm, "electrics", lambda bench: running.current(bench, request.preset)
    )


@require_http_methods(["GET", "POST"])
def build(request: Request, setup: int, race: int) -> HttpResponse:
    """The build in its order, what the race asks for, the spares."""
    return _facts(request, setup, race, BuildForm, "build", lambda bench: preparing.build(bench, request.preset))


@require_http_methods(["GET", "POST"])
def sound(request: Request, setup: int, race: int) -> HttpResponse:
    """How loud it is, and what the event asks for: the engine's stroke is a fact of the bike, the rules the race's."""
    row = get_object_or_404(Race, pk=race, garage=request.garage)

    def rules(sent: Any) -> RulesForm:
        row.refresh_from_db()
        return RulesForm(sent, preset=request.preset, current=facts_of(row, OF_RULES))

    if request.method == "POST" and "stroke_m" in request.POST:
        return _facts(
            request, setup, race, StrokeForm, "sound",
            lambda bench: preparing.sound(bench, request.preset) | {"rules": rules(None), "open_rules": False},
        )  # fmt: skip

    def make() -> RulesForm:
        return rules(request.POST if request.method == "POST" else None)

    form, status = edited(request, make, lambda f: change_facts(row, OF_RULES, f.document(), seen=f.shown))
    if status == 302:
        messages.success(request, _("Kept with the race."))
        return redirect(f"{base_of(setup, race)}kit/sound/")
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    stroke = StrokeForm(None, preset=request.preset, current=bench.setup.bike.document.get("kit", {}))
    context = {"rules": form, "form": stroke, "open": False, "open_rules": status != 200 or form.asked}
    return room(request, bench, "kit", "sound", context | preparing.sound(bench, request.preset), status=status)


@require_GET
def lists(request: Request, setup: int, race: int) -> HttpResponse:
    """What is printed: work, spares, pits, rules."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    return room(request, bench, "kit", "build", preparing.lists(bench, request.preset), template="kit_lists")


@require_POST
def bolt(request: Request, setup: int, race: int) -> HttpResponse:
    """Put a generic thing, or one of the parts box, on the bike's list."""
    row, part = _own(request, setup, race), whole_number(request.POST.get("part"))
    try:
        if part is not None:
            bolted.from_box(row, part)
        else:
            bolted.from_catalogue(row, request.POST.get("id", ""))
    except KeyError:
        raise Http404 from None
    except InputRefused as refused:
        messages.error(request, _words(request, refused))
    return redirect(f"{base_of(setup, race)}kit/items/")


@require_POST
def drop(request: Request, setup: int, race: int) -> HttpResponse:
    """Take a thing off the bike's list."""
    bolted.drop(_own(request, setup, race), request.POST.get("id", ""))
    messages.success(request, _("Taken off the list. Setups that had it on are reckoned without it."))
    return redirect(f"{base_of(setup, race)}kit/items/")


@require_GET
def items_csv(request: Request, setup: int, race: int) -> HttpResponse:
    """The items as CSV."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    response = HttpResponse(bolted.sheet(bench.inputs.bike.kit.items), content_type="text/csv; charset=utf-8")
    response["Content-Disposition"] = 'attachment; filename="kit.csv"'
    return response


@require_POST
def items_from_csv(request: Request, setup: int, race: int) -> HttpResponse:
    """Items out of a CSV."""
    row, form = _own(request, setup, race), SheetForm(request.POST, request.FILES)
    if not form.is_valid():
        messages.error(request, _("Choose a file."))
        return redirect(f"{base_of(setup, race)}kit/items/")
    try:
        n = bolted.take_sheet(row, form.cleaned_data["file"])
        messages.success(request, ngettext("%(n)s item read.", "%(n)s items read.", n) % {"n": n})
    except InputRefused as refused:
        messages.error(request, _words(request, refused))
    return redirect(f"{base_of(setup, race)}kit/items/")
