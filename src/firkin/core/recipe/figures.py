"""Figures in recipe text: amounts with ranges and odd units, shares of a whole, strengths."""

import re

from firkin.core import datafiles
from firkin.core.catalogue import Material
from firkin.core.errors import CannotReckon
from firkin.core.measures import NUMBER, Quantity, Strength, read_number, read_unit


def measures() -> dict[str, str]:
    """Whose cups, spoons, pints and gallons a text may mean.

    >>> measures()["metric"]
    'metric'
    """
    return {key: row["name"] for key, row in datafiles.toml("recipe/heard.toml")["measures"].items()}


def amount_of(token: str, whose: str) -> tuple[Quantity | None, str]:
    """The amount, the middle of a range, and its wording; None where it can be read two ways."""
    first = NUMBER.match(token)
    assert first is not None
    try:
        rest = token[first.end() :].strip()
        value = read_number(first.group())
        between = re.match(r"(?:[-–]|to\b|or\b) ?", rest)
        second = NUMBER.match(rest[between.end() :]) if between else None
        if between and second:
            value = (value + read_number(second.group())) / 2.0
            rest = rest[between.end() + second.end() :].strip()
        unit = read_unit(rest.strip(" -."))
    except CannotReckon:
        return None, str(token)
    meant = datafiles.toml("recipe/heard.toml")["measures"][whose].get(unit, unit)
    if value <= 0:
        return None, str(token)
    return Quantity(value, meant), "" if between or meant != unit else str(token).strip().rstrip(".")


def share_of(token: str, whose: str) -> tuple[Quantity | None, str, float, Quantity | None]:
    """ "1 % of 5 L = 5 mL": the amount said, or else worked out, and the share said, and of what."""
    found = NUMBER.match(token)
    assert found is not None
    share = read_number(found.group())
    figures = re.split(r"%(?: [vw]/[vw])? of (?:the |a )?", token, maxsplit=1)[1]
    whole = NUMBER.match(figures)
    assert whole is not None
    size_text = re.match(r"[^0-9.,½¼¾⅓⅔]*[a-z_ .]*[a-z]", figures[whole.end() :])
    unit = size_text.group() if size_text else ""
    unit = re.sub(r"\s*(?:is|are|that is|so|i\.e)$", "", unit.strip())
    size, _ = amount_of(figures[: whole.end()] + " " + unit, whose)
    then = NUMBER.search(figures, whole.end() + len(unit))
    if then is not None:
        return *amount_of(figures[then.start() :], whose), share, size
    return (Quantity(size.value * share / 100.0, size.unit) if size else None), "", share, size


def strength_of(token: str, material: Material) -> Strength:
    """A strength in any of the ways recipes write it, on the material's usual basis."""
    text = re.sub(r"by volume|alcohol by volume|abv|vol\.?$", "v/v", token).replace("by weight", "w/w")
    return material.read_strength(
        re.sub(r"[- ]?proof(?: uk)?", lambda p: " proof_uk" if "uk" in p[0] else " proof", text)
    )


def together(one: Quantity, other: Quantity | None) -> Quantity:
    """ "1 lb 2 oz" as one quantity in the unit of the first."""
    if other is None or other.kind != one.kind or one.kind not in ("volume", "mass"):
        return one
    more = other.mL / one.mL if one.kind == "volume" else other.g / one.g
    return Quantity(one.value * (1.0 + more), one.unit)


def middle(token: str) -> float:
    """The number in a token; of a range, the middle."""
    found = [
        read_number(match.group()) for match in NUMBER.finditer(re.sub(r"(?<=[0-9]) ?[-–] ?(?=[0-9])", " to ", token))
    ]
    return sum(found) / len(found)
