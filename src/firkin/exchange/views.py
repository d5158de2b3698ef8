"""Taking a workshop's things out as files, and bringing files in: looked at first, stored when that is confirmed."""

import tempfile
import time
from pathlib import Path

from django.conf import settings
from django.contrib import messages
from django.core.files.uploadedfile import UploadedFile
from django.http import FileResponse, Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.utils.text import slugify

from firkin.accounts.middleware import CHOSEN, MakerRequest
from firkin.batches.models import Batch
from firkin.core.errors import CannotReckon
from firkin.exchange import archive, files
from firkin.exchange.forms import BringForm, WayForm
from firkin.exchange.merging import merge
from firkin.exchange.one_batch import of_batch
from firkin.exchange.tables import TABLES, csv_of
from firkin.exchange.transfer import bring_formula, counted, merged_words

#: How long a file that was looked at and not brought in lies about, in seconds.
_LIES_S = 24 * 60 * 60.0


def exchange(request: MakerRequest) -> HttpResponse:
    """What can be taken out, and bringing a file in."""
    act = request.POST.get("act", "")
    form = BringForm(request.POST, request.FILES) if act == "look" else BringForm()
    way = WayForm(request.POST if act == "bring" else None)
    context = {"tables": TABLES.items(), "form": form, "way": way}
    if act == "look" and form.is_valid():
        _lay_down(request, form.cleaned_data["file"])
    elif act == "forget":
        _forget(request)
    laid = _laid_down(request)
    if laid is not None:
        context |= {"laid": laid.name, "whole": laid.suffix == ".zip"}
        try:
            if act == "bring" and way.is_valid():
                return _bring(request, laid, way.cleaned_data)
            context["looks"] = _look(request, laid)
        except CannotReckon as error:
            place = ".".join(str(part) for part in error.path)
            context["trouble"] = f"{place}: {error}" if place else str(error)
            if act != "bring":
                _forget(request)
    return render(request, "exchange/exchange.html", context)


def _look(request: MakerRequest, laid: Path) -> list[str]:
    """What bringing the file in would do, line by line."""
    if laid.suffix == ".json":
        return [bring_formula(laid, request.workshop, request.user, laid.name, only_look=True)]
    came = merge(files.from_file(laid), request.workshop, request.user, only_look=True)
    return merged_words(came, only_look=True)


def _bring(request: MakerRequest, laid: Path, asked: dict[str, str]) -> HttpResponse:
    """Store what the file holds; everything or nothing. Raises CannotReckon."""
    if laid.suffix == ".json":
        said = bring_formula(laid, request.workshop, request.user, laid.name, only_look=False)
    elif asked["way"] == "own":
        whole = files.from_file(laid)
        made = archive.read(whole, asked["name"], bringer=request.user)
        request.session[CHOSEN] = made.pk
        said = f"The workshop {made.name} is here, with {counted(whole)}. You are in it."
    else:
        came = merge(files.from_file(laid), request.workshop, request.user)
        said = " ".join(merged_words(came, only_look=False))
    _forget(request)
    messages.success(request, said)
    return redirect("exchange:exchange")


def _place(request: MakerRequest) -> Path:
    """The folder of the file somebody looked at last."""
    return Path(settings.DATA) / "incoming" / str(request.user.pk)


def _lay_down(request: MakerRequest, file: "UploadedFile[bytes]") -> None:
    """Keep an uploaded file until it is confirmed: one of each account, readable by nobody else."""
    _forget(request)
    folder = _place(request)
    folder.mkdir(parents=True, mode=0o700)
    ending = Path(str(file.name)).suffix.lower()
    target = folder / f"{slugify(Path(str(file.name)).stem)[:60] or 'file'}{ending}"
    with target.open("xb") as stream:
        target.chmod(0o600)
        for chunk in file.chunks():
            stream.write(chunk)


def _laid_down(request: MakerRequest) -> Path | None:
    """The file that waits to be confirmed; one that lay too long is gone."""
    for laid in _place(request).glob("*"):
        if time.time() - laid.stat().st_mtime < _LIES_S:
            return laid
        _forget(request)
    return None


def _forget(request: MakerRequest) -> None:
    """Remove it."""
    folder = _place(request)
    for laid in folder.glob("*"):
        laid.unlink(missing_ok=True)
    if folder.is_dir():
        folder.rmdir()


def whole(request: MakerRequest) -> FileResponse:
    """The whole workshop, firkin-workshop."""
    return _zip(archive.written(request.workshop), _named(request, "zip"))


def batch(request: MakerRequest, pk: int) -> FileResponse:
    """One batch and what it refers to, firkin-workshop."""
    found = get_object_or_404(Batch, pk=pk, workshop=request.workshop)
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
    headers = {"Content-Disposition": f'attachment; filename="{_named(request, "csv", name)}"'}
    return HttpResponse(csv_of(TABLES[name], request.workshop), content_type="text/csv; charset=utf-8", headers=headers)


def _named(request: MakerRequest, ending: str, *words: str) -> str:
    """A file's name: whose, what, of which day."""
    parts = [slugify(request.workshop.name) or "workshop", *words, timezone.localdate().isoformat()]
    return f"{'-'.join(parts)}.{ending}"
