"""Signing in."""

from typing import Any

from django.contrib.auth.forms import AuthenticationForm


class SignInForm(AuthenticationForm):
    """Name and password, in the look of the bench."""

    def __init__(self, *args: Any, **options: Any) -> None:
        super().__init__(*args, **options)
        self.fields["username"].label = "Name"
        for field in self.fields.values():
            field.widget.attrs["class"] = "form-control"
