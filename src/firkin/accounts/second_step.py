"""A second step of signing in: six digits of a program that keeps time (TOTP, RFC 6238), a passkey, a recovery code."""

import base64
from collections.abc import Callable
from typing import Any
from urllib.parse import urlencode

import segno
from django import forms
from django.contrib import messages
from django.contrib.auth.signals import user_logged_in
from django.dispatch import receiver
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import resolve, reverse
from django.utils.http import url_has_allowed_host_and_scheme
from django_otp import login as verified
from django_otp.plugins.otp_static.models import StaticDevice, StaticToken
from django_otp.plugins.otp_totp.models import TOTPDevice
from django_otp_webauthn.models import WebAuthnCredential

from firkin.accounts import sessions
from firkin.accounts.audit_list import noted
from firkin.accounts.models import User
from firkin.ui.fields import number_pad, whole_number

#: The session's word that the second step is still to be made.
_WANTED = "second_step_wanted"
_RECOVERY_CODES = 8
_OPEN = frozenset({"accounts:second_step", "accounts:sign_out", "accounts:passkey_begin", "accounts:passkey_complete"})


class CodeForm(forms.Form):
    """What the program shows."""

    code = forms.CharField(
        max_length=16, label="Code", widget=number_pad("123456", autocomplete="one-time-code", autofocus="autofocus")
    )

    def __init__(self, *args: Any, **options: Any) -> None:
        super().__init__(*args, **options)
        self.label_suffix = ""

    def clean_code(self) -> str:
        """The digits without the spaces that programs show among them."""
        return "".join(str(self.cleaned_data["code"]).split()).lower()


@receiver(user_logged_in)
def _wanted(sender: object, request: HttpRequest | None, user: User, **more: Any) -> None:
    if request is not None and (device_of(user) is not None or passkeys_of(user)):
        request.session[_WANTED] = True


def device_of(user: User) -> TOTPDevice | None:
    """The program that was set up and confirmed; None without a second step."""
    found: TOTPDevice | None = TOTPDevice.objects.filter(user=user, confirmed=True).first()
    return found


def passkeys_of(user: User) -> list[WebAuthnCredential]:
    """The passkeys of an account, the first made first."""
    return list(WebAuthnCredential.objects.filter(user=user, confirmed=True).order_by("pk"))


def host_of(request: HttpRequest) -> str:
    """The name passkeys of this request belong to: its host without the port."""
    return request.get_host().partition(":")[0]


def passkeys_offered(request: HttpRequest) -> bool:
    """True where a browser has passkeys to give: over HTTPS, or on the machine itself as localhost."""
    return request.is_secure() or host_of(request) == "localhost"


def has_recovery_codes(user: User) -> bool:
    """True while a recovery code is left."""
    return bool(StaticToken.objects.filter(device__user=user).exists())


def made(request: HttpRequest) -> None:
    """The second step of a session was made: nothing more is asked of it."""
    request.session.pop(_WANTED, None)


def second_step_first(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Nothing but the second step is shown to a session that has still to make it."""

    def middleware(request: HttpRequest) -> HttpResponse:
        wanted = request.user.is_authenticated and request.session.get(_WANTED)
        if not wanted or resolve(request.path_info).view_name in _OPEN:
            return get_response(request)
        where = request.get_full_path() if request.method == "GET" and "HX-Request" not in request.headers else "/"
        return redirect(f"{reverse('accounts:second_step')}?{urlencode({'next': where})}")

    return middleware


def second_step(request: HttpRequest) -> HttpResponse:
    """Ask for the code of a session that has still to make the second step."""
    user = request.user
    assert isinstance(user, User)
    if not request.session.get(_WANTED):
        return redirect("bench")
    form = CodeForm(request.POST if request.method == "POST" else None)
    if form.is_bound and form.is_valid():
        device = _matched(user, form.cleaned_data["code"])
        if device is not None:
            verified(request, device)
            made(request)
            asked = request.GET.get("next", "")
            safe = url_has_allowed_host_and_scheme(asked, {request.get_host()}, require_https=request.is_secure())
            return redirect(asked if safe else "bench")
        noted(request, "A wrong code at the second step.")
        form.add_error("code", "That code is wrong, or too many were tried. Wait a moment and try the next one.")
    context = {"form": form, "passkey": bool(passkeys_of(user)), "digits": device_of(user) is not None}
    return render(request, "accounts/second_step.html", context)


def _matched(user: User, code: str) -> Any:
    """The device whose code it is; each holds back longer after every wrong one (django-otp)."""
    devices = [*TOTPDevice.objects.filter(user=user, confirmed=True), *StaticDevice.objects.filter(user=user)]
    for device in devices:
        allowed, _ = device.verify_is_allowed()
        if allowed and device.verify_token(code):
            return device
    return None


def set_up(request: HttpRequest) -> HttpResponse:
    """Set up or take away the second step of six digits; the passkeys; new recovery codes."""
    user = request.user
    assert isinstance(user, User)
    device, act = device_of(user), request.POST.get("act", "")
    if act == "codes" and user.is_verified():  # type: ignore[attr-defined]
        sessions.end(user.pk, but=request.session.session_key)
        noted(request, "New recovery codes were made.")
        return render(request, "accounts/recovery_codes.html", {"codes": _recovery_codes(user)})
    if act == "remove-passkey":
        return _remove_passkey(request, user)
    shown = {"passkeys": passkeys_of(user), "offered": passkeys_offered(request)}
    form = CodeForm(request.POST if act in ("confirm", "remove") else None)
    del form.fields["code"].widget.attrs["autofocus"]  # passkeys come first on this page
    if device is not None:
        if act == "remove" and form.is_valid():
            if _matched(user, form.cleaned_data["code"]) is not None:
                TOTPDevice.objects.filter(user=user).delete()
                if not passkeys_of(user):
                    StaticDevice.objects.filter(user=user).delete()
                noted(request, "The second step was removed.")
                messages.success(request, "The second step is off.")
                return redirect("accounts:me")
            form.add_error("code", "That code is wrong.")
        return render(request, "accounts/set_up.html", {"form": form, "on": True, **shown})
    new, _ = TOTPDevice.objects.get_or_create(user=user, confirmed=False, defaults={"name": "second step"})
    if act == "confirm" and form.is_valid():
        if new.verify_token(form.cleaned_data["code"]):
            new.confirmed = True
            new.save(update_fields=["confirmed"])
            sessions.end(user.pk, but=request.session.session_key)
            noted(request, "A second step was set up.")
            return render(request, "accounts/recovery_codes.html", {"codes": _recovery_codes(user)})
        form.add_error("code", "That code is wrong. Check that both clocks are right, and try the next one.")
    picture = segno.make(new.config_url, error="m").svg_inline(scale=5, border=4, light="#fff", omitsize=False)
    secret = base64.b32encode(new.bin_key).decode().rstrip("=")
    return render(request, "accounts/set_up.html", {"form": form, "picture": picture, "secret": secret, **shown})


def _remove_passkey(request: HttpRequest, user: User) -> HttpResponse:
    """Take a passkey away, for the account's password: whoever finds the bench unlocked has not got that."""
    found = WebAuthnCredential.objects.filter(user=user, pk=whole_number(request.POST.get("passkey", ""))).first()
    if found is not None and not user.check_password(request.POST.get("password", "")):
        messages.error(request, "Not removed: the password is wrong.")
    elif found is not None:
        found.delete()
        if device_of(user) is None and not passkeys_of(user):
            StaticDevice.objects.filter(user=user).delete()
        noted(request, "A passkey was removed.")
        messages.success(request, "The passkey is removed. Delete it on your device too.")
    return redirect("accounts:set_up")


def _recovery_codes(user: User) -> list[str]:
    """Codes that work once each, for a lost telephone; they are shown this once."""
    StaticDevice.objects.filter(user=user).delete()
    device = StaticDevice.objects.create(user=user, name="recovery codes")
    codes = [StaticToken.random_token() for _ in range(_RECOVERY_CODES)]
    StaticToken.objects.bulk_create([StaticToken(device=device, token=code) for code in codes])
    return codes
