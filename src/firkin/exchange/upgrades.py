"""The versions of firkin-workshop, and how a file of one becomes a file of the next.

When a table gets another column, or anything else of the document changes: raise VERSION, add the step from the version
before, and keep an archive of the new version beside the others (docs/contributing.md). A step gets a document that
nobody has checked yet; what it does not find as it expects it leaves for the check that follows.
"""

from collections.abc import Callable, Mapping
from typing import Any

from firkin.core.catalogue import Material, find
from firkin.core.errors import CannotRead, CannotReckon
from firkin.core.measures import Quantity, Strength
from firkin.exchange.validation import version_of
from firkin.shelf.models import grams_of

NAME, VERSION = "firkin-workshop", 7
FORMAT = f"{NAME}/{VERSION}"
Document = dict[str, Any]


def _roles_instruments_and_address(document: Document) -> None:
    """1 to 2: members have roles (all were keepers); simulated instruments and an address of the workshop."""
    members = document.get("members")
    if isinstance(members, list) and all(isinstance(name, str) for name in members):
        document["members"] = dict.fromkeys(members, "keeper")
    if isinstance(document.get("workshop"), dict):
        document["workshop"] = {"simulated_instruments": False, "address": "", **document["workshop"]}


def _ledgers_of_stocks(document: Document) -> None:
    """2 to 3: what was taken from a stock is its ledger, signed, and begins with what it held when it was bought.

    Which batch took it stood in words, "batch 26-014, entry 33", and is a row of its own from now on.
    """
    tables = document.get("tables")
    names = ("stocks", "stock_uses", "batches", "entries", "materials")
    if not isinstance(tables, dict) or not all(_are_rows(tables.get(name)) for name in names) or "movements" in tables:
        return
    document["tables"] = tables = dict(tables)
    uses, stocks = tables.pop("stock_uses"), tables["stocks"]
    tables["stocks"] = [{"tare_g": None, **row} for row in stocks]
    tables["batches"] = [{"aim": "", "comes_to_mL": None, **row} for row in tables["batches"]]
    tables["entries"] = [{"stock": None, **row} for row in tables["entries"]]
    tables["movements"] = [_signed(row) for row in uses]
    numbers = {row.get("number"): place for place, row in enumerate(tables["batches"])}
    told = [(place, str(row.get("reason", "")).partition(",")[0]) for place, row in enumerate(uses)]
    took = [(place, words.rpartition("-")[2]) for place, words in told if words.startswith("batch ")]
    tables["draws"] = [
        {"batch": numbers[int(number)], "movement": place}
        for place, number in took
        if number.isascii() and number.isdigit() and len(number) < 10 and int(number) in numbers
    ]
    own = {row.get("name"): row for row in tables["materials"]}
    first = {row.get("stock"): row.get("at") for row in reversed(uses)}
    bought = [_bought(place, row, own, first.get(place)) for place, row in enumerate(stocks)]
    tables["movements"] += [row for row in bought if row is not None]


def _are_rows(table: Any) -> bool:
    return isinstance(table, list) and all(isinstance(row, dict) for row in table)


def _signed(row: Document) -> Document:
    """An amount taken out, as a movement: with a minus."""
    grams = row.get("mass_g")
    out = -grams if isinstance(grams, int | float) and not isinstance(grams, bool) else grams
    return {**row, "mass_g": out, "kind": "poured"}


def _bought(place: int, row: Document, own: Mapping[Any, Document], at: Any) -> Document | None:
    """The movement a stock begins with; None where its row is not as it should be, which the check says."""
    try:
        there = own.get(row["material"])
        material = find(row["material"]) if there is None else _own(there)
        strength = None
        if row["strength_value"] is not None:
            ends = (float(row["strength_low"] or 0.0), float(row["strength_high"] or 0.0))
            strength = Strength(float(row["strength_value"]), *ends, row["strength_basis"])
        amount = Quantity(float(row["amount_value"]), row["amount_unit"])
        full = grams_of(material, amount, strength, row.get("bulk"))
    except (KeyError, TypeError, ValueError, AttributeError, ZeroDivisionError, CannotReckon, CannotRead):
        return None
    day = row.get("bought_on")
    at = f"{day}T00:00:00+00:00" if day else at or "2026-01-01T00:00:00+00:00"
    return {"stock": place, "at": at, "kind": "bought", "mass_g": full, "reason": ""}


def _own(row: Document) -> Material:
    """A material of the workshop's own."""
    kind = "solid" if row["solid"] else "liquid"
    return Material(id=row["name"], name=row["name"], kind=kind, density=float(row["density_g_per_mL"]))


def _bottles_doses_and_lots(document: Document) -> None:
    """3 to 4: bottles one by one with who has them, recalls, doses, lots of stocks; none of it was known before."""
    tables = document.get("tables")
    if isinstance(document.get("workshop"), dict):
        document["workshop"] = {"forget_names_days": None, **document["workshop"]}
    if not isinstance(tables, dict) or "bottles" in tables:
        return
    document["tables"] = tables = dict(tables)
    for name, more in _SINCE_4.items():
        if _are_rows(tables.get(name)):
            tables[name] = [{**more, **row} for row in tables[name]]
    tables |= {name: [] for name in ("bought", "holders", "bottles", "recalls", "bottle_events")}


#: Columns that came with version 4, as they were before.
_SINCE_4: dict[str, Document] = {
    "stocks": {
        **dict.fromkeys(("lot", "shop", "grade", "stands", "wording", "bar_code", "seen"), ""),
        **dict.fromkeys(("opened_on", "best_before", "purchase")),
    },
    "versions": {"dose_value": None, "dose_unit": "", "dose_of": "", "loads": None},
    "batches": {"bad_since": None, "bad_why": ""},
}


def _seasons(document: Document) -> None:
    """4 to 5: evenings, products and needs of the season; nobody planned one before. Plans are worked out anew."""
    tables = document.get("tables")
    if isinstance(tables, dict):
        document["tables"] = {**{name: [] for name in ("habits", "products", "stands_in", "season_needs")}, **tables}


def _labels_and_washing(document: Document) -> None:
    """5 to 6: photos of labels, weights of empty bottles that were guessed, and vessels that want a wash."""
    tables = document.get("tables")
    if not isinstance(tables, dict):
        return
    document["tables"] = tables = {"label_photos": [], **tables}
    for name, more in (("stocks", {"tare_guessed": False}), ("vessels", {"to_wash": 0})):
        if _are_rows(tables.get(name)):
            tables[name] = [{**more, **row} for row in tables[name]]


def _cups(document: Document) -> None:
    """6 to 7: a step may be done in a cup of its own, or pour one out; before, all was told in the step's words."""
    tables = document.get("tables")
    if isinstance(tables, dict) and _are_rows(tables.get("formula_steps")):
        more = {"vessel": "", "source": ""}
        document["tables"] = {**tables, "formula_steps": [{**more, **row} for row in tables["formula_steps"]]}


#: From each version to the next.
STEPS: dict[int, Callable[[Document], None]] = {
    1: _roles_instruments_and_address,
    2: _ledgers_of_stocks,
    3: _bottles_doses_and_lots,
    4: _seasons,
    5: _labels_and_washing,
    6: _cups,
}


def upgraded(document: Any) -> Document:
    """A document of any version as one of this version; the one that is given stays as it is.

    Raises CannotRead for another format, and says so of a newer version.

    >>> upgraded({"format": "firkin-workshop/1", "members": ["ada"]})["members"]
    {'ada': 'keeper'}
    """
    if not isinstance(document, dict):
        raise CannotRead(f"this is no {NAME}")
    version = version_of(document.get("format"), FORMAT)
    document = dict(document)
    for step in range(version, VERSION):
        STEPS[step](document)
    return {**document, "format": FORMAT}
