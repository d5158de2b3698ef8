"""Takes the second step and the passkeys from an account whose telephone and recovery codes are lost."""

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser
from django_otp.plugins.otp_static.models import StaticDevice
from django_otp.plugins.otp_totp.models import TOTPDevice
from django_otp_webauthn.models import WebAuthnCredential

from firkin.accounts.audit_list import written
from firkin.accounts.models import User


class Command(BaseCommand):
    """remove_second_step NAME."""

    help = "Takes the second step of signing in from an account."

    def add_arguments(self, parser: CommandParser) -> None:
        """The account."""
        parser.add_argument("name")

    def handle(self, *args: Any, name: str, **options: Any) -> None:
        """Remove it, and note that."""
        user = User.objects.filter(username=name).first()
        if user is None:
            raise CommandError(f"There is no account {name}.")
        removed = TOTPDevice.objects.filter(user=user).delete()[0]
        removed += WebAuthnCredential.objects.filter(user=user).delete()[0]
        StaticDevice.objects.filter(user=user).delete()
        written("The second step was removed on the machine.", user, None)
        self.stdout.write(f"{name} signs in with the password alone." if removed else f"{name} had no second step.")
