"""The text commands `firkin export` and `firkin import`: a whole workshop, one batch, or one formula."""

import argparse
import json
import sys
from pathlib import Path

from django.db import transaction

from firkin.accounts.models import User, Workshop
from firkin.batches.models import Batch
from firkin.core.errors import CannotRead, CannotReckon
from firkin.core.formula import FORMULA_FORMAT_NOW, formula_from_dict, formula_to_dict, reckon
from firkin.exchange import archive, files
from firkin.exchange.merging import look, merge, words_of
from firkin.exchange.one_batch import of_batch
from firkin.exchange.validation import check_formula, version_of
from firkin.formulas.models import Formula
from firkin.shelf.models import own_materials


def run(options: argparse.Namespace) -> int:
    """Run one of them; 2 and a line on standard error where something is wrong, and nothing was written."""
    try:
        print(_export(options) if options.command == "export" else _import(options))
    except CannotReckon as error:
        place = ".".join(str(part) for part in error.path)
        message = " ".join(str(error).split())
        print(f"{place}: {message}" if place else message, file=sys.stderr)
        return 2
    return 0


def _workshop(name: str) -> Workshop:
    found = list(Workshop.objects.filter(name=name) if name else Workshop.objects.all()[:2])
    if len(found) == 1:
        return found[0]
    known = ", ".join(f"“{one}”" for one in Workshop.objects.values_list("name", flat=True)) or "none"
    raise CannotRead(f"Say which workshop, with --workshop NAME. There are: {known}.")


def _export(options: argparse.Namespace) -> str:
    workshop = _workshop(options.workshop)
    if options.batch:
        batch = next((one for one in Batch.objects.filter(workshop=workshop) if one.code == options.batch), None)
        if batch is None:
            raise CannotRead(f"There is no batch {options.batch[:40]} in “{workshop.name}”, written such as 26-014.")
        files.to_file(of_batch(batch), options.file)
        return f"{options.file} holds batch {batch.code}, {batch.name}, and what it refers to."
    if not options.formula:
        whole = archive.written(workshop)
        files.to_file(whole, options.file)
        return f"{options.file} holds the workshop “{workshop.name}”: {whole.words}."
    kept = Formula.objects.filter(workshop=workshop, name=options.formula).first()
    if kept is None:
        raise CannotRead(f"There is no formula “{options.formula}” in “{workshop.name}”.")
    document = formula_to_dict(kept.current.as_core(own_materials(workshop.pk)))
    text = json.dumps(document, indent=2, ensure_ascii=False) + "\n"

    def write(aside: Path) -> None:
        aside.write_bytes(text.encode("utf-8", "replace"))

    files.written_whole(options.file, write)
    return f"{options.file} holds the formula “{kept.name}”."


def _import(options: argparse.Namespace) -> str:
    if options.file.suffix.lower() == ".json" and options.file.is_file():
        return _import_formula(options)
    whole = files.from_file(options.file)
    if options.into:
        came = (look if options.check else merge)(whole, _workshop(options.into), None)
        return "\n".join(words_of(came, only_look=options.check))
    with transaction.atomic():
        workshop = archive.read(whole, options.name, options.account)
        alone = not workshop.members.exists()
        if options.check:
            transaction.set_rollback(True)
    said = f"The workshop “{workshop.name}”: {whole.words}."
    if alone:
        said += " None of its members has an account here: give one with --account NAME."
    return f"{'It would add' if options.check else 'Added'}: {said}"


def _import_formula(options: argparse.Namespace) -> str:
    workshop = _workshop(options.workshop)
    return bring_formula(options.file, workshop, None, options.file.name, only_look=options.check)


def bring_formula(file: Path, workshop: Workshop, user: User | None, source: str, *, only_look: bool) -> str:
    """Bring a formula's file into a workshop, or with ``only_look`` say what that would do.

    Raises CannotReckon, with the path of what is wrong.
    """
    try:
        document = json.loads(file.read_text("utf-8-sig"))
    except (OSError, ValueError, RecursionError):
        raise CannotRead(f"{source} is no JSON that can be read.") from None
    version_of(document.get("format") if isinstance(document, dict) else None, FORMULA_FORMAT_NOW)
    check_formula(document)
    formula = formula_from_dict(document, own_materials(workshop.pk))
    reckon(formula)
    same = Formula.objects.filter(workshop=workshop, name=formula.name)
    for kept in same:
        if formula_to_dict(kept.current.as_core(own_materials(workshop.pk))) == formula_to_dict(formula):
            return f"The formula “{formula.name}” is there already, just so; nothing is added."
    beside = " beside one of that name that differs" if same.exists() else ""
    if not only_look:
        Formula.objects.keep(formula, workshop, user, note=f"from {source}"[:300])
    return f"{'It would add' if only_look else 'Added'}: the formula “{formula.name}”{beside}."
