from typing import Any

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _
from django.utils.translation import ngettext
from django.views.decorators.http import require_GET, require_POST

from lynxwort.core.errors import InputRefused
from lynxwort.web.parts import services
from lynxwort.web.parts.forms import AboutForm, FileForm, PartForm
from lynxwort.web.parts.models import OwnedPart
from lynxwort.web.ui.stale import edited
from lynxwort.web.ui.typed import Request
from lynxwort.words.refusals import explain


def _page(request: Request, *, status: int = 200, **known: Any) -> HttpResponse:
    told = known.pop("told", None)
    shelves = [
        (
            kind,
            [
                (
                    part,
                    words,
                    told
                    if told and told.row.pk == part.pk
                    else AboutForm(row=part, shown=services.about(part), preset=request.preset),
                )
                for part, words in parts
            ],
        )
        for kind, parts in services.shelves(request.garage)
    ]
    context = {"form": PartForm(preset=request.preset), "upload": FileForm(), "shelves": shelves}
    return render(request, "parts/box.html", context | known, status=status)


def box(request: Request) -> HttpResponse:
    """The parts box: what lies in it, and a line to put more in."""
    form = PartForm(request.POST or None, preset=request.preset)
    if request.method == "POST" and form.is_valid():
        typed = form.cleaned_data
        about = {k: typed[k] for k in services.ABOUT}
        try:
            new = services.quick_add(request.garage, typed["kind"], typed["text"], request.preset, **about)
            if not new:
                words = _("That stood here already; what is known of it was brought up to date.")
            elif typed["condition"] == services.SHOP:
                words = ngettext("%(n)s new to buy.", "%(n)s new to buy.", new) % {"n": new}
            else:
                words = ngettext("%(n)s new in the box.", "%(n)s new in the box.", new) % {"n": new}
            messages.success(request, words)
            return redirect("parts:box")
        except InputRefused as refused:
            for refusal in refused.refusals:
                form.add_error("text", explain(refusal, preset=request.preset, translate=_))
    return _page(request, form=form, status=422) if form.errors else _page(request)


@require_POST
def change(request: Request, part: int) -> HttpResponse:
    """Count, condition, place, mark, price, time to fit; or that it was bought."""
    if "bought" in request.POST:
        services.bought(get_object_or_404(OwnedPart, pk=part, garage=request.garage))
        return redirect("parts:box")

    def make() -> AboutForm:
        row = get_object_or_404(OwnedPart, pk=part, garage=request.garage)
        return AboutForm(request.POST, row=row, shown=services.about(row), preset=request.preset)

    form, status = edited(request, make, lambda form: services.change(form.row, seen=form.shown, **form.cleaned_data))
    return redirect("parts:box") if status == 302 else _page(request, told=form, status=status)


@require_POST
def remove(request: Request, part: int) -> HttpResponse:
    """Take a part out of the box."""
    get_object_or_404(OwnedPart, pk=part, garage=request.garage).delete()
    return redirect("parts:box")


@require_GET
def export(request: Request) -> HttpResponse:
    """The box as CSV."""
    response = HttpResponse(services.write_csv(request.garage), content_type="text/csv; charset=utf-8")
    response["Content-Disposition"] = 'attachment; filename="parts.csv"'
    return response


@require_POST
def take_file(request: Request) -> HttpResponse:
    """A file of parts into the box, all or nothing."""
    form = FileForm(request.POST, request.FILES)
    if not form.is_valid():
        return _page(request, upload=form, status=422)
    try:
        data = form.cleaned_data["file"].read(services.MAX_FILE_BYTES + 1)
        if "look" in request.POST:
            return _page(request, would=services.would_read(request.garage, data, request.preset))
        count = services.read_csv(request.garage, data, request.preset)
    except services.TableRefused as refused:
        rows = [(r.line, explain(r.refusal, preset=request.preset, translate=_)) for r in refused.rows[:20]]
        return _page(request, upload=form, refused=rows, more=max(len(refused.rows) - 20, 0), status=422)
    messages.success(request, ngettext("%(n)s row taken in.", "%(n)s rows taken in.", count) % {"n": count})
    return redirect("parts:box")
