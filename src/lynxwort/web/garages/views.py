from typing import Any

from django.conf import settings
from django.contrib import messages
from django.contrib.auth import login, logout, update_session_auth_hash
from django.contrib.auth.decorators import login_not_required
from django.contrib.auth.forms import PasswordChangeForm
from django.contrib.auth.views import LoginView, LogoutView
from django.core.exceptions import PermissionDenied
from django.http import Http404, HttpResponse, HttpResponseRedirect
from django.shortcuts import redirect, render
from django.utils.decorators import method_decorator
from django.utils.http import url_has_allowed_host_and_scheme
from django.utils.translation import get_language_from_request
from django.utils.translation import gettext as _
from django.views.decorators.debug import sensitive_post_parameters
from django.views.decorators.http import require_POST

from lynxwort.web.garages import services
from lynxwort.web.garages.forms import FirstAccountForm, SettingsForm
from lynxwort.web.garages.models import User
from lynxwort.web.ui.middleware import speak
from lynxwort.web.ui.security import say
from lynxwort.web.ui.stale import edited
from lynxwort.web.ui.typed import Request

BACKEND = "django.contrib.auth.backends.ModelBackend"


@method_decorator(login_not_required, name="dispatch")
class SignIn(LoginView):
    """Sign in, or enter the demo, or make the first account."""

    template_name = "garages/sign_in.html"
    redirect_authenticated_user = True

    def get_context_data(self, **kwargs: Any) -> dict[str, Any]:
        return super().get_context_data(**kwargs) | {
            "demo": settings.DEMO,
            "may_enter_demo": services.may_enter_demo(self.request),
            "may_make_first": services.may_make_first_account(self.request),
            "in_clear": services.crosses_in_clear(self.request),
        }


class SignOut(LogoutView):
    """Sign out (POST)."""


@login_not_required
def first_account(request: Request) -> HttpResponse:
    """The first account: from loopback or with the printed token."""
    if not services.may_make_first_account(request):
        raise PermissionDenied
    form = FirstAccountForm(request.POST or None)
    if request.method == "POST" and form.is_valid():
        try:
            user = services.add_first_user(
                form.cleaned_data["username"], form.cleaned_data["password"], form.cleaned_data["garage"]
            )
        except services.TakenAlready:
            raise PermissionDenied from None
        say("first account", user=user.get_username(), address=request.META.get("REMOTE_ADDR", ""))
        login(request, user, backend=BACKEND)
        return redirect("stand")
    token = request.GET.get("token") or request.POST.get("token", "")
    return render(
        request, "garages/first_account.html", {"form": form, "token": token}, status=422 if form.errors else 200
    )


@login_not_required
@require_POST
def enter_demo(request: Request) -> HttpResponse:
    """One button into the demo."""
    if not services.may_enter_demo(request):
        raise PermissionDenied
    login(request, User.objects.get(username=services.DEMO_USER), backend=BACKEND)
    return redirect("stand")


def settings_page(request: Request) -> HttpResponse:
    """Units per quantity, the theme, the language."""

    def make() -> SettingsForm:
        request.user.refresh_from_db()
        return SettingsForm(request.POST or None, user=request.user)

    def save(form: SettingsForm) -> None:
        told = form.cleaned_data
        services.change_settings(
            request.user, form.choices(), told["theme"], told["language"], told["comforts"], seen=form.shown
        )
        speak(told["language"] or get_language_from_request(request))

    form, status = edited(request, make, save)
    if status == 302:
        messages.success(request, _("Kept."))
        return redirect("garages:settings")
    return render(
        request, "garages/settings.html", {"form": form, "keeper": services.keeps_the_machine(request)}, status=status
    )


@sensitive_post_parameters()
def change_password(request: Request) -> HttpResponse:
    """One's own password; every other session of the person ends with it."""
    if not request.user.has_usable_password():
        raise Http404
    form = PasswordChangeForm(request.user, request.POST or None)
    if request.method == "POST" and form.is_valid():
        form.save()
        update_session_auth_hash(request, form.user)
        say("password changed", user=request.user.get_username())
        messages.success(request, _("Your password is changed. Wherever else you were signed in, you no longer are."))
        return redirect("garages:settings")
    return render(request, "garages/password.html", {"form": form}, status=422 if form.errors else 200)


@require_POST
def sign_out_everywhere(request: Request) -> HttpResponse:
    """End every session of the person."""
    services.sign_out_everywhere(request.user)
    say("signed out everywhere", user=request.user.get_username())
    logout(request)
    return redirect("garages:sign-in")


@require_POST
def set_units(request: Request) -> HttpResponse:
    """Take a whole preset of units and come back."""
    chosen = request.POST.get("units")
    if chosen in User.Units.values:
        services.set_units(request.user, chosen, {})
    back = request.POST.get("next", "")
    safe = url_has_allowed_host_and_scheme(back, allowed_hosts={request.get_host()})
    return HttpResponseRedirect(back if safe else "/")
