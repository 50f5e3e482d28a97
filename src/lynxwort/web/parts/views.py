from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_POST

from lynxwort.web.parts import services
from lynxwort.web.parts.forms import PartForm
from lynxwort.web.parts.models import OwnedPart


def box(request: HttpRequest) -> HttpResponse:
    """The parts box: what lies in it, and one more."""
    form = PartForm(request.POST or None, preset=request.preset)
    if request.method == "POST" and form.is_valid():
        if not services.add_part(request.garage, form.cleaned_data["tunable"], form.cleaned_data["value_si"]):
            messages.info(request, _("That one is in the box already."))
        return redirect("parts:box")
    context = {"form": form, "shelves": services.by_tunable(request.garage)}
    return render(request, "parts/box.html", context, status=422 if form.errors else 200)


@require_POST
def remove(request: HttpRequest, part: int) -> HttpResponse:
    """Take a part out of the box."""
    get_object_or_404(OwnedPart, pk=part, garage=request.garage).delete()
    return redirect("parts:box")
