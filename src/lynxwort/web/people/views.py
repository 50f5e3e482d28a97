from typing import Any

from django.conf import settings
from django.contrib import messages
from django.contrib.auth import login
from django.contrib.auth.decorators import login_not_required
from django.http import HttpResponse
from django.middleware.csrf import rotate_token
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.cache import never_cache
from django.views.decorators.debug import sensitive_post_parameters
from django.views.decorators.http import require_GET, require_POST, require_safe

from lynxwort.web.garages.models import Membership
from lynxwort.web.garages.roles import Role
from lynxwort.web.garages.services import CHOSEN, crosses_in_clear
from lynxwort.web.people import deeds, services
from lynxwort.web.people.forms import InviteForm, JoinForm
from lynxwort.web.people.models import Invitation
from lynxwort.web.people.wording import DEEDS, MAY
from lynxwort.web.ui.security import say
from lynxwort.web.ui.typed import Request, whole_number

BACKEND = "django.contrib.auth.backends.ModelBackend"


def _page(request: Request, form: InviteForm | None = None, *, status: int = 200, **more: Any) -> HttpResponse:
    context = services.people_page(request.member) | {
        "form": form or InviteForm(),
        "may_words": MAY,
        "deed_words": DEEDS,
    }
    context |= {"roles": Role.choices, "in_clear": not request.is_secure()}
    return render(request, "people/people.html", context | more, status=status)


@require_GET
def people(request: Request) -> HttpResponse:
    """Who is in the garage and as what, the codes to join by, and who did what."""
    return _page(request)


@require_POST
@never_cache
def invite(request: Request) -> HttpResponse:
    """A code to join by, shown once: its token is not kept."""
    form = InviteForm(request.POST)
    if not form.is_valid():
        return _page(request, form, status=422)
    said = form.cleaned_data
    try:
        code = services.invite(
            request.garage, request.user, said["role"], single=said["many"] == "one", label=said["label"]
        )
    except services.TooMany:
        form.add_error(None, _("So many codes are open already. End some first."))
        return _page(request, form, status=422)
    say("code to join made", user=request.user.get_username(), role=said["role"])
    return _page(request, code=code)


@require_POST
def end(request: Request, invitation: int) -> HttpResponse:
    """End a code."""
    services.end(get_object_or_404(Invitation, pk=invitation, garage=request.garage))
    messages.success(request, _("Ended: nobody comes in by that code any more."))
    return redirect("people:people")


@require_POST
def role(request: Request, member: int) -> HttpResponse:
    """Give a member another part, or let them out."""
    row = get_object_or_404(Membership.objects.select_related("user"), pk=member, garage=request.garage)
    wanted = request.POST.get("role", "")
    try:
        if wanted == "out":
            services.let_out(row)
        elif wanted in Role.values:
            services.change_role(row, wanted)
        else:
            return _page(request, status=422, trouble=_("Choose what they are to be."))
    except services.LastOwner:
        return _page(request, status=422, trouble=_("A garage keeps an owner. Make somebody else one first."))
    say("part in the garage changed", user=request.user.get_username(), of=row.user.get_username(), to=wanted)
    return redirect("people:people")


@require_POST
def leave(request: Request) -> HttpResponse:
    """Leave the garage one is in."""
    if not request.member:
        return redirect("people:nowhere")
    try:
        services.let_out(request.member)
    except services.LastOwner:
        return _page(request, status=422, trouble=_("A garage keeps an owner. Make somebody else one first."))
    deeds.write(request.garage, request.user, request.member.role, "people:leave")
    rotate_token(request)
    return redirect("stand")


@require_POST
def choose(request: Request) -> HttpResponse:
    """Go to another garage that one is let into. What was shown of the one before can be sent no more."""
    row = get_object_or_404(Membership, garage=whole_number(request.POST.get("garage")), user=request.user)
    request.session[CHOSEN] = row.garage_id
    rotate_token(request)
    return redirect("stand")


@require_safe
def nowhere(request: Request) -> HttpResponse:
    """For somebody whom no garage lets in."""
    if request.member:
        return redirect("stand")
    return render(request, "people/nowhere.html")


@require_POST
def put_away(request: Request) -> HttpResponse:
    """The garage with all that is in it is put away for good, once its name was typed."""
    if settings.DEMO or request.POST.get("name", "").strip() != request.member.garage.name:
        return _page(request, status=422, trouble=_("Nothing was put away: the name is not that of this garage."))
    say("garage put away", user=request.user.get_username())
    services.put_away(request.member)
    # who did what went with it
    request.member = None  # type: ignore[assignment]
    request.session.pop(CHOSEN, None)
    rotate_token(request)
    messages.success(request, _("The garage is put away."))
    return redirect("stand")


@login_not_required
@never_cache
@sensitive_post_parameters("password")
def join(request: Request, token: str) -> HttpResponse:
    """What a code leads to. Only sending joins: whatever looks at an address beforehand uses nothing up."""
    address = request.META.get("REMOTE_ADDR", "")
    if services.asked_too_often(address):
        return render(request, "people/closed.html", {"too_often": True}, status=429)
    try:
        invitation = services.find(token, address)
        form = JoinForm(request.POST if request.method == "POST" else None)
        if request.method == "POST":
            answer = _joined(request, invitation, form)
            if answer is not None:
                return answer
    except services.NotOpen:
        return render(request, "people/closed.html", status=404)
    context = {
        "invitation": invitation,
        "form": form,
        "may": MAY[invitation.role],
        "in_clear": crosses_in_clear(request),
    }
    return render(request, "people/join.html", context, status=422 if form.errors else 200)


def _joined(request: Request, invitation: Invitation, form: JoinForm) -> HttpResponse | None:
    """Somebody in, or None when the form says why not. Raises NotOpen."""
    user = request.user
    if user.is_authenticated:
        if not services.join(invitation, user):
            messages.info(request, _("You are in this garage already. The code is still good for others."))
        rotate_token(request)
    else:
        if not form.is_valid():
            return None
        try:
            user = services.join_anew(invitation, form.cleaned_data["username"], form.cleaned_data["password"])
        except services.NameTaken:
            form.add_error("username", _("Somebody here is called so already. Add to it, or come in by your password."))
            return None
        login(request, user, backend=BACKEND)
    say("joined by a code", user=user.get_username(), role=invitation.role, address=request.META.get("REMOTE_ADDR", ""))
    request.session[CHOSEN] = invitation.garage_id
    return redirect("stand")
