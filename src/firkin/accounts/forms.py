"""Signing in, and the workshop's settings."""

import re
import zoneinfo
from typing import Any

from django import forms
from django.contrib.auth.forms import AuthenticationForm, PasswordChangeForm, SetPasswordForm, UserCreationForm
from django.core.exceptions import ValidationError

from firkin.accounts.models import Role, User, Workshop
from firkin.core.measures import Quantity, maker_units
from firkin.ui.fields import MakeField, Select, number_widget, text_widget


class SignInForm(AuthenticationForm):
    """Name and password, in the look of the bench."""

    def __init__(self, *args: Any, **options: Any) -> None:
        super().__init__(*args, **options)
        self.fields["username"].label = "Name"
        for field in self.fields.values():
            field.widget.attrs["class"] = "form-control"


class NameForm(forms.ModelForm):  # type: ignore[type-arg]
    """By what name one signs in."""

    class Meta:
        model = User
        fields = ("username",)
        labels = {"username": "Name to sign in by"}  # noqa: RUF012
        help_texts = {"username": ""}  # noqa: RUF012
        widgets = {"username": text_widget(autocomplete="username")}  # noqa: RUF012


class PasswordForm(PasswordChangeForm):
    """The password now, and the new one twice."""

    def __init__(self, *args: Any, **options: Any) -> None:
        super().__init__(*args, **options)
        self.label_suffix = ""
        labels = {"old_password": "Password now", "new_password1": "New password", "new_password2": "Once more"}
        _in_the_look(self, labels, "new_password1")


class NewPasswordForm(SetPasswordForm):  # type: ignore[type-arg]
    """A new password twice, for who holds a link."""

    def __init__(self, *args: Any, **options: Any) -> None:
        super().__init__(*args, **options)
        self.label_suffix = ""
        _in_the_look(self, {"new_password1": "New password", "new_password2": "Once more"}, "new_password1")


class AccountForm(UserCreationForm):  # type: ignore[type-arg]
    """A new account: its name, and the password twice."""

    class Meta:
        model = User
        fields = ("username",)

    def __init__(self, *args: Any, **options: Any) -> None:
        super().__init__(*args, **options)
        self.label_suffix = ""
        labels = {"username": "Name to sign in by", "password1": "Password", "password2": "Once more"}
        _in_the_look(self, labels, "password1")


class FirstForm(AccountForm):
    """The first account of all, and the workshop it keeps."""

    workshop = forms.CharField(label="Name of your workshop", max_length=80, widget=text_widget(autocomplete="off"))
    time_zone = forms.CharField(
        label="Time zone",
        max_length=60,
        help_text="As this machine is set. Used for all dates and rests.",
        widget=text_widget("Europe/Berlin", autocomplete="off"),
    )

    def clean_workshop(self) -> str:
        """A name no other workshop has."""
        name: str = self.cleaned_data["workshop"]
        if Workshop.objects.filter(name=name).exists():
            raise ValidationError(f"There is a workshop {name} already. Choose another name.")
        return name

    def clean_time_zone(self) -> str:
        """A name from the time zone database."""
        return _zone(self.cleaned_data["time_zone"])


def _zone(written: str) -> str:
    """A name from the time zone database of this machine; raises ValidationError for another."""
    if written.strip() not in zoneinfo.available_timezones():
        raise ValidationError("That is not a time zone. Write one such as Europe/Berlin.")
    return written.strip()


def _in_the_look(form: forms.BaseForm, labels: dict[str, str], password: str) -> None:
    """Fields of Django's own forms, in the look and the words of the bench."""
    for name, label in labels.items():
        form.fields[name].label, form.fields[name].help_text = label, ""
        form.fields[name].widget.attrs["class"] = "form-control"
        form.fields[name].widget.attrs.pop("autofocus", None)
    form.fields[password].help_text = "Twelve characters at least, and not a common one."


#: How many days an invitation may be open.
OPEN_DAYS = ((1, "a day"), (7, "a week"), (30, "a month"))


class InviteForm(forms.Form):
    """As what somebody is asked in, and until when the link leads in."""

    role = forms.ChoiceField(label="As a", choices=Role.choices, initial=Role.MAKER, widget=Select())
    days = forms.TypedChoiceField(label="Open for", choices=OPEN_DAYS, coerce=int, initial=7, widget=Select())

    def __init__(self, *args: Any, **options: Any) -> None:
        super().__init__(*args, **options)
        self.label_suffix = ""


class WorkshopForm(forms.ModelForm):  # type: ignore[type-arg]
    """What holds for a whole workshop."""

    address = forms.URLField(
        required=False,
        max_length=200,
        assume_scheme="http",
        label="Address others can reach",
        help_text="The code on labels leads there. Leave it empty for no code.",
        widget=text_widget("http://quay.example:8000", autocomplete="off"),
    )

    class Meta:
        model = Workshop
        fields = (
            *("name", "time_zone", "currency", "household", "kitchen", "decimal_mark"),
            *("address", "forget_names_days", "simulated_instruments"),
        )
        labels = {  # noqa: RUF012
            "name": "Name of the workshop",
            "time_zone": "Time zone",
            "household": "Cups, spoons and gallons are",
            "kitchen": "Usually measured with",
            "decimal_mark": "Decimals are written",
            "forget_names_days": "Forget names after, days",
            "simulated_instruments": "Try simulated instruments",
        }
        help_texts = {  # noqa: RUF012
            "time_zone": "Such as Europe/Berlin. Used for all dates and rests.",
            "currency": "Three letters, such as EUR.",
            "household": "Whose cups and gallons a recipe means when it doesn't say.",
            "kitchen": "The measures on sheets and batches, unless you choose others.",
            "decimal_mark": "How numbers are shown, and how 1,500 is read. Files always use the point.",
            "forget_names_days": "Names of people who had bottles, counted from their last one. Empty: never.",
            "simulated_instruments": "For trying out. Their readings are marked and never count.",
        }
        widgets = {  # noqa: RUF012
            "name": text_widget(),
            "time_zone": text_widget("Europe/Berlin", list="zones", autocomplete="off"),
            "currency": text_widget("EUR", autocomplete="off"),
            "household": Select(),
            "kitchen": Select(),
            "decimal_mark": Select(),
            "forget_names_days": number_widget(min="1", max="36500"),
            "simulated_instruments": forms.CheckboxInput(),
        }

    def __init__(self, *args: Any, **options: Any) -> None:
        super().__init__(*args, **options)
        for unit in maker_units().values():
            size = self.instance.own_sizes.get(unit.id)
            self.fields[f"own_{unit.id}"] = MakeField(
                required=False,
                bare="mL" if unit.kind == "volume" else "g",
                label=f"{unit.name} is",
                initial=str(Quantity(size, "mL" if unit.kind == "volume" else "g")) if size else "",
                widget=text_widget(unit.about),
            )

    @property
    def own(self) -> list[forms.BoundField]:
        """The fields of the maker's own units."""
        return [self[f"own_{unit}"] for unit in maker_units()]

    @property
    def usual(self) -> list[forms.BoundField]:
        """The other fields."""
        return [self[name] for name in self._meta.fields or ()]

    def clean(self) -> dict[str, Any]:
        """The sizes of the maker's own units, each of its kind."""
        data = super().clean() or {}
        sizes = {}
        for unit in maker_units().values():
            size = data.get(f"own_{unit.id}")
            if size is not None and size.kind != unit.kind:
                wanted = "a volume, such as" if unit.kind == "volume" else "a weight, such as"
                self.add_error(f"own_{unit.id}", f"{unit.name} is {wanted} {unit.about}.")
            elif size is not None:
                sizes[unit.id] = size.mL if unit.kind == "volume" else size.g
        self.instance.own_sizes = sizes
        return data

    def clean_time_zone(self) -> str:
        """One that this machine knows."""
        return _zone(self.cleaned_data["time_zone"])

    def clean_currency(self) -> str:
        """Three letters."""
        currency: str = self.cleaned_data["currency"].strip().upper()
        if not re.fullmatch(r"[A-Z]{3}", currency):
            raise ValidationError("Three letters, such as EUR or GBP.")
        return currency
