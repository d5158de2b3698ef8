"""Taking a workshop's things out as files, and bringing files in: looked at first, stored when that is confirmed."""

import tempfile
from pathlib import Path
from typing import Any

from django.contrib import messages
from django.core.files.uploadedfile import UploadedFile
from django.http import FileResponse, Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.utils.text import slugify
from django_htmx.http import HttpResponseClientRedirect

from firkin.accounts.audit_list import noted
from firkin.accounts.middleware import CHOSEN, MakerRequest
from firkin.accounts.presses import once
from firkin.batches.models import Batch
from firkin.core.errors import CannotRead, CannotReckon
from firkin.exchange import archive, bringing, files
from firkin.exchange.forms import BringForm, WayForm
from firkin.exchange.one_batch import of_batch
from firkin.exchange.tables import TABLES, csv_of
from firkin.exchange.transfer import bring_formula

#: A formula's file holds no more than this, in bytes.
_MOST_FORMULA = 1_000_000


@once
def exchange(request: MakerRequest) -> HttpResponse:
    """What can be taken out, and bringing a file in: looked at, then stored, by a process that a page waits for."""
    act = request.POST.get("act", "")
    form = BringForm(request.POST, request.FILES) if act == "look" else BringForm()
    way = WayForm(request.POST if act == "bring" else None)
    context = {"tables": TABLES.items(), "form": form, "way": way}
    if act == "look" and form.is_valid():
        _lay_down(request, form.cleaned_data["file"])
        return redirect("exchange:exchange")
    if act == "forget":
        bringing.forget(request.user.pk)
        return redirect("exchange:exchange")
    sent = bringing.sent_file(request.user.pk)
    if sent is not None and act == "bring" and way.is_valid():
        return _bring(request, sent, way.cleaned_data)
    return render(request, "exchange/exchange.html", context | _context(request, sent))


def progress(request: MakerRequest) -> HttpResponse:
    """How far the file is that is looked at or brought in; the page of it once that is done."""
    said = bringing.said_of(request.user.pk)
    if said is not None and said["state"] == "working":
        return render(request, "exchange/progress.html", {"said": said})
    return HttpResponseClientRedirect(reverse("exchange:exchange"))


def _context(request: MakerRequest, sent: Path | None) -> dict[str, Any]:
    """What is said of the file that was sent."""
    if sent is None:
        return {}
    context: dict[str, Any] = {"laid": sent.name, "whole": sent.suffix == ".zip"}
    if sent.suffix == ".json":
        try:
            return context | {"looks": [_formula(request, sent, only_look=True)]}
        except CannotReckon as error:
            bringing.forget(request.user.pk)
            return context | {"trouble": _with_place(error), "gone": True}
    said = bringing.said_of(request.user.pk)
    if said is None or said["workshop"] != request.workshop.pk:  # it was looked at from another workshop
        bringing.begin(request.user.pk, {"act": "look", "workshop": request.workshop.pk})
        said = bringing.said_of(request.user.pk) or {"state": "refused", "text": bringing.STOPPED, "act": "look"}
    if said["state"] == "brought":
        bringing.forget(request.user.pk)
        if "chosen" in said:
            request.session[CHOSEN] = said["chosen"]
        noted(request, f"Brought {sent.name} in.", request.workshop)
        messages.success(request, said["text"])
        return {}
    if said["state"] == "refused":
        if said["act"] == "look":
            bringing.forget(request.user.pk)
            return context | {"trouble": said["text"], "gone": True}
        return context | {"trouble": said["text"], "looks": said["lines"]}
    return context | ({"said": said} if said["state"] == "working" else {"looks": said["lines"]})


def _formula(request: MakerRequest, sent: Path, *, only_look: bool) -> str:
    if sent.stat().st_size > _MOST_FORMULA:
        raise CannotRead(f"{sent.name} is larger than 1 MB: that is no formula.")
    return bring_formula(sent, request.workshop, request.user, sent.name, only_look=only_look)


def _with_place(error: CannotReckon) -> str:
    place = ".".join(str(part) for part in error.path)
    return f"{place}: {error}" if place else str(error)


def _bring(request: MakerRequest, sent: Path, asked: dict[str, str]) -> HttpResponse:
    """Store what the file holds, everything or nothing: a formula at once, a workshop by a process of its own."""
    if sent.suffix == ".json":
        try:
            text = _formula(request, sent, only_look=False)
            noted(request, text, request.workshop)
            messages.success(request, text)
        except CannotReckon as error:
            messages.error(request, f"{_with_place(error)} Nothing of it is stored.")
        bringing.forget(request.user.pk)
        return redirect("exchange:exchange")
    said = bringing.said_of(request.user.pk)
    looked = said is not None and said["workshop"] == request.workshop.pk and "lines" in said
    if said is not None and looked and said["state"] != "working":
        task = {"act": "bring", "workshop": request.workshop.pk, "lines": said["lines"]}
        bringing.begin(request.user.pk, task | {"way": asked["way"], "name": asked["name"]})
    return redirect("exchange:exchange")


def _lay_down(request: MakerRequest, file: "UploadedFile[bytes]") -> None:
    """Keep an uploaded file until it is confirmed: one of each account, readable by nobody else; and look at it."""
    ending = Path(str(file.name)).suffix.lower()
    name = f"{slugify(Path(str(file.name)).stem)[:60] or 'file'}{ending}"
    target = bringing.place_for(request.user.pk, name)
    with target.open("xb") as stream:
        target.chmod(0o600)
        for chunk in file.chunks():
            stream.write(chunk)
    if ending == ".zip":
        bringing.begin(request.user.pk, {"act": "look", "workshop": request.workshop.pk})


def whole(request: MakerRequest) -> FileResponse:
    """The whole workshop, firkin-workshop."""
    noted(request, "Took the whole workshop out as a file.", request.workshop)
    return _zip(archive.written(request.workshop), _named(request, "zip"))


def batch(request: MakerRequest, pk: int) -> FileResponse:
    """One batch and what it refers to, firkin-workshop."""
    found = get_object_or_404(Batch, pk=pk, workshop=request.workshop)
    noted(request, f"Took batch {found.code} out as a file.", request.workshop)
    return _zip(of_batch(found), _named(request, "zip", found.code))


def _zip(content: archive.Archive, name: str) -> FileResponse:
    stream = tempfile.TemporaryFile()  # noqa: SIM115  closed by the answer
    files.to_zip(content, stream)
    stream.seek(0)
    return FileResponse(stream, as_attachment=True, filename=name, content_type="application/zip")


def table(request: MakerRequest, name: str) -> HttpResponse:
    """One of the tables, for a spreadsheet."""
    if name not in TABLES:
        raise Http404
    noted(request, f"Took the table “{TABLES[name].name}” out.", request.workshop)
    headers = {"Content-Disposition": f'attachment; filename="{_named(request, "csv", name)}"'}
    return HttpResponse(csv_of(TABLES[name], request.workshop), content_type="text/csv; charset=utf-8", headers=headers)


def _named(request: MakerRequest, ending: str, *words: str) -> str:
    """A file's name: whose, what, of which day."""
    parts = [slugify(request.workshop.name) or "workshop", *words, timezone.localdate().isoformat()]
    return f"{'-'.join(parts)}.{ending}"
