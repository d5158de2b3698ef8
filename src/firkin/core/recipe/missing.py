"""Amounts that a recipe does not tell: what they could be, and what is wrong with it whatever they are."""

import itertools
from collections.abc import Iterator, Sequence
from dataclasses import replace

from firkin.core.audit import Finding, Severity, audit
from firkin.core.catalogue import usual_share
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line, reckon
from firkin.core.measures import Quantity
from firkin.core.recipe.recipe import HeardLine, Recipe
from firkin.core.texts import uncapped

#: So many missing amounts are tried at both ends, in every combination; more of them all at one end or the other.
_MOST_COMBINED = 4
#: More than this share of a batch is never left for one missing amount.
_MOST_SHARE = 0.95
#: Found only because an amount is missing, and no fault of what is told.
_OF_THE_GAP = frozenset({"percent-sum", "amounts-miss-make", "amounts-miss-size", "two-alcohols", "share-unusual"})


#: They hold in any amount, and their fix says nothing of amounts.
_NEEDS_NO_AMOUNT = frozenset(
    {
        *("unknown-material", "strength-assumed", "table-uncertain", "unfit-alcohol"),
        *("bleach-mixed", "peroxide-mixed", "peroxide-vinegar", "caustic-mixed"),
    }
)
_FILL_IN = "Fill in what is missing to see what would do."


def whatever_is_missing(recipe: Recipe) -> Iterator[Finding]:
    """The findings that hold at every amount the missing ones could usually have; stops that hold at some are asked."""
    missing = [i for i, line in enumerate(recipe.lines) if line.amount is None]
    if not missing or len(missing) == len(recipe.lines):
        return
    filled = _filled_up(recipe, missing)
    tried = [
        found
        for shares in (filled, *_ends(recipe, missing))
        if (found := _audited(recipe, missing, shares)) is not None
    ]
    if not tried:
        return
    names = ", ".join(dict.fromkeys(uncapped(recipe.lines[i].material.name) for i in missing))
    everywhere = set.intersection(*({one.rule for one in found} for found in tried))
    said: set[str] = set()
    for finding in itertools.chain.from_iterable(tried):
        mildest = max((one.severity for found in tried for one in found if one.rule == finding.rule), key=_weight)
        if finding.rule in said | _OF_THE_GAP or finding.rule not in everywhere or finding.severity is not mildest:
            continue
        said.add(finding.rule)
        quiet = finding.severity is Severity.NOTE or finding.rule in _NEEDS_NO_AMOUNT
        more = "" if quiet else f" True for any usual amount of {names}."
        fix = finding.fix if finding.rule in _NEEDS_NO_AMOUNT or filled else _FILL_IN
        yield replace(finding, text=finding.text + more, fix=fix, fixed=None)


def _weight(severity: Severity) -> int:
    return list(Severity).index(severity)


#: The share of the batch of each missing amount.
Shares = tuple[float, ...]


def _ends(recipe: Recipe, missing: Sequence[int]) -> Iterator[Shares]:
    """Each missing amount at the low and at the high end of its usual share, in every combination."""
    usual = [usual_share(recipe.lines[i].material, recipe.family) for i in missing]
    combined = itertools.product(*usual) if len(missing) <= _MOST_COMBINED else zip(*usual, strict=True)
    for shares in combined:
        total = sum(shares)
        yield tuple(share * min(1.0, _MOST_SHARE / max(total, 1e-9)) for share in shares)


def _filled_up(recipe: Recipe, missing: Sequence[int]) -> Shares:
    """The one missing liquid as what is left of the size that is said; nothing where that cannot be told."""
    size, whole = recipe.make or recipe.claims.size, _whole(recipe, 0.0)
    if size is None or whole is None or len(missing) > 1 or recipe.lines[missing[0]].material.solid:
        return ()
    told = _whole(replace(recipe, make=None, claims=replace(recipe.claims, size=None)), 0.0)
    return (1.0 - told / whole,) if told is not None and 0.0 < told < whole else ()


def _audited(recipe: Recipe, missing: Sequence[int], shares: Shares) -> tuple[Finding, ...] | None:
    """The findings with every missing amount at a share; None where that cannot be counted."""
    if not shares:
        return None
    whole = _whole(recipe, sum(shares))
    if whole is None:
        return None
    amounts = dict(zip(missing, shares, strict=True))
    lines = []
    for i, line in enumerate(recipe.lines):
        amount = line.amount or _amount(line, max(whole * amounts[i], 1e-3))
        lines.append(Line(line.material, amount, line.strength, claims=line.claims))
    formula = Formula(
        "As far as it is told",
        tuple(lines),
        recipe.family,
        recipe.basis,
        recipe.make,
        guidelines=recipe.guidelines,
        claim=recipe.claim,
        claims=recipe.claims,
        steps=recipe.steps,
        cut=recipe.cut,
        loads=recipe.claims.loads or None,
    )
    try:
        return audit(reckon(formula))
    except CannotReckon:
        return None


def _amount(line: HeardLine, size: float) -> Quantity:
    return Quantity(size, "g" if line.material.solid else "mL")


def _whole(recipe: Recipe, share: float) -> float | None:
    """How big the batch is, in mL or g: as it is said, or what the told amounts come to with the missing share."""
    size = recipe.make or recipe.claims.size
    if size is not None and size.kind in ("volume", "mass"):
        return size.mL if size.kind == "volume" else size.g
    told = [line.amount for line in recipe.lines if line.amount is not None]
    if not told or any(amount.kind not in ("volume", "mass") for amount in told):
        return None
    return sum(amount.mL if amount.kind == "volume" else amount.g for amount in told) / (1.0 - share)
