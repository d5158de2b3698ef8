"""A ratio told beside the amounts it is the ratio of: the amounts are counted, once."""

from dataclasses import replace

from firkin.core.measures import Quantity
from firkin.core.recipe.heard import Heard
from firkin.core.recipe.recipe import HeardLine, MarkKind

#: How far a ratio told may be off its amounts and still be theirs: amounts are round figures (common practice).
_SLACK = 0.15


def ratio_told_beside(heard: Heard) -> None:
    """Leave out the parts of materials whose amounts are told too; a ratio that is another than theirs is not read.

    Parts that stand alone, or of which one has no amount, are left as they are.
    """
    parts = [i for i, line in enumerate(heard.lines) if line.amount is not None and line.amount.kind == "part"]
    twins = {i: _measured(heard.lines, i) for i in parts}
    if not parts or any(len(there) != 1 for there in twins.values()):
        return
    place = {i: there[0] for i, there in twins.items()}
    same = _same_ratio([(heard.lines[i].amount, heard.lines[j].amount) for i, j in place.items()])
    kind = MarkKind.CLAIM if same else MarkKind.UNREAD
    what = "The ratio of these amounts." if same else "Another ratio than that of the amounts."
    kept = [i for i in range(len(heard.lines)) if i not in place]
    new = {old: i for i, old in enumerate(kept)} | {i: kept.index(j) for i, j in place.items()}
    heard.marks = [
        mark
        if mark.line is None
        else replace(mark, line=None, kind=kind, what=what)
        if mark.line in place
        else replace(mark, line=new[mark.line])
        for mark in heard.marks
    ]
    for i, j in place.items():  # what only the ratio's names say belongs to the amounts
        told, line = heard.lines[i], heard.lines[j]
        if line.strength is None and told.strength is not None:
            heard.lines[j] = replace(line, strength=told.strength, strength_said=told.strength_said)
    heard.percents = {new[i]: pct for i, pct in heard.percents.items() if i not in place}
    heard.lines = [heard.lines[i] for i in kept]


def _measured(lines: list[HeardLine], at: int) -> list[int]:
    """Where the same material stands with an amount of its own, and no other strength."""
    one = lines[at]
    return [
        i
        for i, line in enumerate(lines)
        if line.material.id == one.material.id
        and line.amount is not None
        and line.amount.kind in ("volume", "mass")
        and (line.strength is None or one.strength is None or line.strength == one.strength)
    ]


def _same_ratio(pairs: list[tuple[Quantity | None, Quantity | None]]) -> bool:
    """True where amounts of one kind stand in the ratio told."""
    shares = []
    for part, amount in pairs:
        if part is None or amount is None or not part.value:
            return False
        shares.append((amount.kind, (amount.mL if amount.kind == "volume" else amount.g) / part.value))
    sizes = [size for _, size in shares]
    return len({kind for kind, _ in shares}) == 1 and max(sizes) <= min(sizes) * (1.0 + _SLACK)
