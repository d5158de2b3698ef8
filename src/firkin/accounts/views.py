"""The workshop's settings, and one's own account."""

import zoneinfo
from datetime import timedelta
from typing import Any

from axes.models import AccessAttempt
from django.conf import settings
from django.contrib import messages
from django.contrib.auth import update_session_auth_hash
from django.contrib.auth.forms import AuthenticationForm
from django.contrib.auth.views import LoginView, LogoutView
from django.db.models import Sum
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone

from firkin.accounts import sessions
from firkin.accounts.forms import NameForm, PasswordForm, SignInForm, WorkshopForm
from firkin.accounts.middleware import CHOSEN, MakerRequest
from firkin.accounts.models import Membership, Role, User, Workshop
from firkin.accounts.second_step import device_of, passkeys_of, passkeys_offered
from firkin.accounts.unsent import read
from firkin.ui.fields import whole_number

#: So many wrong passwords of one account, from several addresses together, rest it: more than one address may try, so
#: that nobody locks somebody else out by a few.
MOST_FOR_AN_ACCOUNT = 30


class SignIn(LoginView):
    """Signing in; a form that did not get through for want of it is shown, to be sent again."""

    template_name = "accounts/sign_in.html"
    authentication_form = SignInForm

    def post(self, request: HttpRequest, *args: Any, **options: Any) -> HttpResponse:
        """Refused while too many wrong passwords of this account came from everywhere together."""
        since = timezone.now() - timedelta(hours=settings.AXES_COOLOFF_TIME)
        tried = AccessAttempt.objects.filter(username=request.POST.get("username", ""), attempt_time__gt=since)
        if (tried.aggregate(sum=Sum("failures_since_start"))["sum"] or 0) >= MOST_FOR_AN_ACCOUNT:
            return render(request, "accounts/locked_out.html", status=429)
        return super().post(request, *args, **options)

    def form_valid(self, form: AuthenticationForm) -> HttpResponse:
        """In, and to where one was going."""
        answer = super().form_valid(form)
        unsent = read(self.request.POST)
        return answer if unsent is None else render(self.request, "accounts/unsent.html", {"unsent": unsent})

    def get_context_data(self, **more: Any) -> dict[str, Any]:
        """With the form that is carried along."""
        shown = {"unsent": self.request.POST.get("unsent", ""), "passkeys_offered": passkeys_offered(self.request)}
        shown["nobody_yet"] = not User.objects.exists()
        return super().get_context_data(**more) | shown


class SignOut(LogoutView):
    """Signing out; the browser forgets what it kept of private pages."""

    def post(self, request: HttpRequest, *args: Any, **options: Any) -> HttpResponse:
        """Out."""
        answer = super().post(request, *args, **options)
        answer["Clear-Site-Data"] = '"cache", "storage"'
        return answer


def me(request: MakerRequest) -> HttpResponse:
    """One's own account: the name, the password, and ending every other session."""
    act = request.POST.get("act", "")
    if settings.DEMO and act in ("name", "password"):
        messages.error(request, "The demo signs its account in by itself, so it stays as it is.")
        return redirect("accounts:me")
    account = User.objects.get(pk=request.user.pk)  # the one of the request names whoever is here until it is saved
    name = NameForm(request.POST if act == "name" else None, instance=account, label_suffix="")
    password = PasswordForm(request.user, request.POST if act == "password" else None)
    if name.is_bound and name.is_valid():
        name.save()
        messages.success(request, f"You sign in as {account.username} from now on.")
        return redirect("accounts:me")
    if password.is_bound and password.is_valid():
        password.save()
        update_session_auth_hash(request, request.user)  # this session goes on; every other one has ended
        messages.success(request, "The password is changed. Every other session has ended.")
        return redirect("accounts:me")
    if act == "workshop":
        asked = whole_number(request.POST.get("workshop", ""))
        membership = Membership.objects.filter(user=request.user, workshop=asked).first()
        if membership is not None:
            request.session[CHOSEN] = membership.workshop_id
            messages.success(request, f"You are in {membership.workshop} now.")
        return redirect("accounts:me")
    if act == "end":
        ended = sessions.end(request.user.pk, request.POST.get("which", "-"), but=request.session.session_key)
        messages.success(request, "Ended there." if ended else "It had ended already.")
        return redirect("accounts:me")
    if act == "sessions":
        ended = sessions.end(request.user.pk, but=request.session.session_key)
        messages.success(request, f"{ended} other session{'' if ended == 1 else 's'} ended.")
        return redirect("accounts:me")
    workshops = Membership.objects.filter(user=request.user).select_related("workshop").order_by("workshop_id")
    context = {"name_form": name, "password_form": password, "workshops": workshops}
    context |= {
        "sessions": sessions.of_account(request.user.pk, request.session.session_key),
        "second_step": device_of(account) is not None,
        "passkeys": len(passkeys_of(account)),
    }
    return render(request, "accounts/me.html", context)


def workshop(request: MakerRequest) -> HttpResponse:
    """Its name, time zone, currency, whose measures, and the decimal mark."""
    keeper = request.role == Role.KEEPER
    if request.method == "POST" and not keeper:
        words = {"title": "For a keeper of the workshop", "advice": "Keepers change its settings. Ask one of them."}
        return render(request, "site/sorry.html", words, status=403)
    kept = Workshop.objects.get(pk=request.workshop.pk)  # the one of the request names the bench until it is saved
    form = WorkshopForm(request.POST if request.method == "POST" else None, instance=kept)
    if form.is_bound and form.is_valid():
        form.save()
        messages.success(request, "Kept. Saved. It counts everywhere from now on.")
        return redirect("accounts:workshop")
    context = {"form": form, "zones": sorted(zoneinfo.available_timezones()), "keeper": keeper}
    return render(request, "accounts/workshop.html", context)
