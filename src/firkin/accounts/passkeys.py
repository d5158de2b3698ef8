"""Passkeys (WebAuthn): a way to sign in without the password, and a second step beside the six digits.

They belong to the host's name: under another name they are not found.
"""

from typing import Any

from django.contrib.auth.decorators import login_not_required
from django.http import JsonResponse
from django.urls import reverse
from django.utils.decorators import method_decorator
from django_otp_webauthn import views
from django_otp_webauthn.helpers import WebAuthnHelper
from django_otp_webauthn.models import WebAuthnCredential

from firkin.accounts import second_step, sessions
from firkin.accounts.audit_list import noted


class Helper(WebAuthnHelper):  # type: ignore[misc]
    """The ceremony under the name the page was asked for by: Firkin stands on many a machine."""

    def get_allowed_origins(self) -> list[str]:
        """The page's own address alone."""
        return [f"{self.request.scheme}://{self.request.get_host()}"]


class BeginRegistration(views.BeginCredentialRegistrationView):  # type: ignore[misc]
    """What a browser needs to make a passkey for who is signed in."""


class CompleteRegistration(views.CompleteCredentialRegistrationView):  # type: ignore[misc]
    """Keep the passkey a browser made; every other session of the account ends, as with a new second step."""

    def post(self, *args: Any, **options: Any) -> JsonResponse:
        """``first`` tells the page to go on to recovery codes."""
        first = not second_step.has_recovery_codes(self.request.user)
        super().post(*args, **options)
        sessions.end(self.request.user.pk, but=self.request.session.session_key)
        noted(self.request, "A passkey was set up.")
        return JsonResponse({"first": first})


@method_decorator(login_not_required, name="dispatch")
class BeginSignIn(views.BeginCredentialAuthenticationView):  # type: ignore[misc]
    """What a browser needs to show a passkey: of anybody at the sign-in, of one account at its second step."""


@method_decorator(login_not_required, name="dispatch")
class CompleteSignIn(views.CompleteCredentialAuthenticationView):  # type: ignore[misc]
    """Sign in by a passkey, which is both steps at once."""

    def complete_auth(self, device: WebAuthnCredential) -> Any:
        """As the package does it; then nothing more is asked."""
        user = super().complete_auth(device)
        second_step.made(self.request)
        return user

    def get_success_url(self) -> str:
        """Where the maker wanted to go."""
        return str(self.get_redirect_url() or reverse("bench"))
