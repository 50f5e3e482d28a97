"""The tour of first steps: which one a person is shown."""

from typing import Any

from django.http import HttpRequest
from django.utils.translation import gettext as _

from lynxwort.web.garages.models import User
from lynxwort.web.garages.services import DEMO_USER
from lynxwort.words.explained.tour import STEPS

#: who has left it
LEFT = len(STEPS) + 1


def tour_of(request: HttpRequest) -> int:
    """Which first step a person is shown: 0 = to be offered. In the demo, which many share, each visit has its own."""
    user = request.user
    if not user.is_authenticated:
        return LEFT
    return int(request.session.get("tour", 0)) if user.get_username() == DEMO_USER else user.tour


def show(request: HttpRequest, step: int) -> None:
    """Show a first step, or none any more."""
    step = step if 0 < step < LEFT else LEFT
    if request.user.get_username() == DEMO_USER:
        request.session["tour"] = step
    else:
        User.objects.filter(username=request.user.get_username()).update(tour=step)


def step_page(step: int) -> dict[str, Any] | None:
    """One step: its number, title, text, the ones before and after; None when none is shown."""
    if not 0 < step < LEFT:
        return None
    title, text = STEPS[step - 1]
    return {
        "step": step,
        "of": len(STEPS),
        "title": _(title),
        "text": _(text),
        "before": step - 1,
        "after": step + 1 if step < len(STEPS) else 0,
    }


def shell(request: HttpRequest) -> dict[str, Any]:
    """What of the tour a page shows."""
    step = tour_of(request) if hasattr(request, "user") else LEFT
    return {"tour": step_page(step), "tour_offered": step == 0}
