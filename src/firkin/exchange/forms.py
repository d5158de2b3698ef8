"""The form by which a file is brought in."""

from typing import Any

from django import forms
from django.conf import settings
from django.core.exceptions import ValidationError
from django.core.files.uploadedfile import UploadedFile

from firkin.ui.fields import text_widget

_ENDINGS = (".zip", ".json")


class BringForm(forms.Form):
    """A file that was exported."""

    file = forms.FileField(
        label="A file that was taken out of a Firkin",
        help_text="A workshop (.zip) or a formula (.json).",
        widget=forms.FileInput(attrs={"class": "form-control", "accept": ",".join(_ENDINGS)}),
        error_messages={"required": "Choose a file.", "empty": "That file is empty."},
    )

    def __init__(self, *args: Any, **options: Any) -> None:
        super().__init__(*args, **options)
        self.label_suffix = ""

    def clean_file(self) -> "UploadedFile[bytes]":
        """One of the two kinds."""
        file: UploadedFile[bytes] = self.cleaned_data["file"]
        if not str(file.name).lower().endswith(_ENDINGS):
            raise ValidationError("That is neither a .zip nor a .json.")
        if (file.size or 0) > settings.MOST_UPLOAD:
            raise ValidationError("That is more than a page takes. On the machine: ./firkin import FILE.")
        return file


class WayForm(forms.Form):
    """Where a workshop's file goes."""

    way = forms.ChoiceField(
        choices=[("into", "into this workshop"), ("own", "as a workshop of its own")],
        initial="into",
        widget=forms.RadioSelect(attrs={"class": "form-check-input"}),
    )
    name = forms.CharField(
        required=False, max_length=80, label="Its name here", widget=text_widget("as in the file", autocomplete="off")
    )
