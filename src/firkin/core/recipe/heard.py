"""What was heard so far: lines, claims and marks, gathered sentence by sentence."""

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

from firkin.core.catalogue import Material, alcohol_names, find
from firkin.core.errors import CannotReckon
from firkin.core.formula import UNCLAIMED, Claims, LineClaims
from firkin.core.measures import QS, Quantity, Strength
from firkin.core.recipe.names import Named
from firkin.core.recipe.recipe import HeardLine, Mark, MarkKind
from firkin.core.recipe.said import Amount, Percent
from firkin.core.recipe.spans import Span

#: A per cent above this on something without a strength is its purity, below it its share of the batch.
_PURE_PCT = 50.0
#: "95°" above this, where nobody counts in US proof, is rectified spirit by volume (Gay-Lussac degrees).
_RECTIFIED_PCT = 90.0
#: Outside the US, alcohol of so many per cent is rectified spirit, ethanol (common practice, no source).
_SPIRIT_PCT = (94.5, 97.0)
#: What is added as it takes, and tops nothing up.
_TO_TASTE = frozenset(
    {"fragrance", "dye", "essential-oil", "preservative", "neutraliser", "thickener", "free-acid", "salt", "base"}
)
_TOP_UP = Amount(Quantity(0.0, QS))


@dataclass(frozen=True, slots=True)
class Mention:
    """A name without an amount: where, and whether it was asked for, stands in a title, or is spoken about."""

    span: Span
    asked: bool = False
    title: bool = False
    strength: Percent | None = None
    listed: bool = False
    at_line: int = 0


@dataclass(frozen=True, slots=True)
class Share:
    """ "1 % of 5 L = 5 mL": the per cent, of what, and the amount said."""

    pct: float
    size: Quantity | None
    said: Amount | None


@dataclass
class Heard:
    """Everything gathered so far, and what only the whole of it can decide."""

    text: str
    whose: str
    own: tuple[Material, ...]
    lines: list[HeardLine] = field(default_factory=list)
    percents: dict[int, Percent] = field(default_factory=dict)  # lines whose only figure is a per cent
    sizes: list[Quantity] = field(default_factory=list)
    made_up_to: list[Quantity] = field(default_factory=list)
    rates: list[tuple[Span, Amount]] = field(default_factory=list)  # "per litre", each with where it stands
    said_strengths: list[tuple[Span, Material | None]] = field(default_factory=list)
    on_hand: list[Percent] = field(default_factory=list)
    called_for: list[Percent] = field(default_factory=list)
    claims: Claims = UNCLAIMED
    cut: float = 0.0
    who: bool = False
    bare_top_up: tuple[int, int] | None = None
    mentions: list[Mention] = field(default_factory=list)
    marks: list[Mark] = field(default_factory=list)
    remarks: list[str] = field(default_factory=list)
    trials: list[tuple[int, int]] = field(default_factory=list)
    measured: list[tuple[int, int]] = field(default_factory=list)  # where amounts of lines stand
    left_out: str = ""
    directing: bool = False  # behind a heading such as "Directions"

    def mark(self, start: int, end: int, kind: MarkKind, what: str = "", line: int | None = None) -> None:
        """Mark a piece of the text."""
        self.marks.append(Mark(start, end, kind, what, line))

    def mark_span(self, span: Span, kind: MarkKind, what: str = "", line: int | None = None) -> None:
        """Mark a span."""
        self.mark(span.start, span.end, kind, what, line)

    def claimed(self, span: Span, material: Material | None) -> None:
        """A strength that the whole is said to have."""
        value = span.value if isinstance(span.value, Percent) else Percent(span.value, span.value)
        self.said_strengths.append((replace(span, value=value), material))

    # lines

    def line(
        self,
        name: Span,
        amount: Amount | None = None,
        before: Sequence[Percent] = (),
        after: Sequence[Percent] = (),
        share: Share | None = None,
        at: tuple[int, int] | None = None,
    ) -> int:
        """Add a line for a name, with its amount and the per cents said before and after it; its position."""
        named: Named = name.value
        claims = LineClaims(words=named.words, assumed=named.strength is not None and not before and not after)
        if named.guessed:
            claims = replace(claims, guessed=name.text)
        quantity = amount.quantity if amount else None
        wording = amount.wording if amount else ""
        qualifiers = (*named.qualifiers, *((amount.filled,) if amount and amount.filled else ()))
        if amount and amount.filled not in ("", "level"):
            claims = replace(claims, heaped=True)
        if share is not None:
            claims = replace(claims, share_pct=share.pct)
            if share.size is not None:
                self.sizes.append(share.size)
            quantity, wording = shared(share)
        material = named.material
        if named.words == "soap" and (quantity is None or quantity.kind == "mass"):
            material = find("bar-soap")
        line = HeardLine(
            material, quantity, named.strength, claims, wording, name.text, qualifiers, at or (name.start, name.end)
        )
        self.lines.append(self._with_percents(line, list(before), list(after)))
        place = len(self.lines) - 1
        self.mark(*self.lines[place].at, MarkKind.LINE, "", place)
        return place

    def _with_percents(self, line: HeardLine, before: list[Percent], after: list[Percent]) -> HeardLine:
        """Give the per cents of a line their meaning, as far as the line alone decides it."""
        said = [*before, *after]
        if not said:
            return line
        bare = line.amount is None and not line.wording
        if bare and len(said) > 1:
            stated, share = _strength_and_share(line.material, before, after)
            return replace(self.strong(line, stated), amount=Quantity(share.middle, "%"))
        if bare:
            self.percents[len(self.lines)] = said[0]
            return self.strong(line, said[0])
        if self._rather_a_share(line, said):
            return replace(line, claims=replace(line.claims, share_pct=said[0].middle))
        dissolved = line.material.solution is not None and _is_thinned(line)
        if dissolved or _has_strength(line.material) or said[0].middle > _PURE_PCT or said[0].unit not in ("%",):
            stated = said[0]
            if len(said) > 1:
                stated, share = _strength_and_share(line.material, before, after)
                line = replace(line, claims=replace(line.claims, share_pct=share.middle))
            return self.strong(line, stated)
        return replace(line, claims=replace(line.claims, share_pct=said[0].middle))

    @staticmethod
    def _rather_a_share(line: HeardLine, said: Sequence[Percent]) -> bool:
        """True for "caustic soda 0.9 %, 45 g": nobody sells it so weak, and so little of a batch is usual."""
        small = len(said) == 1 and said[0].unit == "%" and said[0].middle < _PURE_PCT
        known = bool(line.material.sold) and not line.material.alcohol and line.material.reports != "active"
        return small and known and not _is_thinned(line) and not line.material.sold_as(said[0].middle)

    def strong(self, line: HeardLine, said: Percent) -> HeardLine:
        """The line with its strength; more than 100 %, or a spirit above 50 %, can only be proof."""
        limit = 50.0 if line.claims.words in alcohol_names().spirits else 100.0
        unnamed = self.whose != "us" and line.claims.words in alcohol_names().unnamed
        if unnamed and _SPIRIT_PCT[0] <= said.low and said.high <= _SPIRIT_PCT[1]:
            line = replace(line, material=find("ethanol"))
        by_volume = said.degrees and self.whose != "us" and said.middle > _RECTIFIED_PCT
        if said.unit == "%" and line.material.alcohol and limit < said.middle <= 200.0 and not by_volume:
            claims = replace(line.claims, misread_pct=said.middle, assumed=False)
            return replace(line, strength=Strength.of(said.middle / 2.0, "v/v"), claims=claims)
        if "proof" in said.unit and line.claims.words in alcohol_names().unnamed:
            line = replace(line, material=find("ethanol"))  # proof is of spirits
        try:
            claims = replace(line.claims, assumed=False)
            return replace(line, strength=said.strength(line.material), strength_said=said.words, claims=claims)
        except CannotReckon:
            self.mark(*line.at, MarkKind.UNREAD, "No strength can be that.")
            return line

    def top_up(self, name: Span, size: Amount | None, stated: Sequence[Percent], at: tuple[int, int]) -> None:
        """A line that tops the batch up, to a size where one is said."""
        if size is not None and size.quantity is not None:
            self.made_up_to.append(size.quantity)
        named: Named = name.value
        if size is None and (named.material.solid or named.material.roles & _TO_TASTE):
            self.line(name, Amount(None, "as it takes"), stated, at=at)
            self.mark(*at, MarkKind.UNREAD, "As much as it takes; how much that is, is not said.")
            return
        waiting = next(
            (
                i
                for i, old in enumerate(self.lines)
                if old.material is named.material and not old.amount and not old.wording
            ),
            None,
        )
        if waiting is not None:
            self.lines[waiting] = replace(self.lines[waiting], amount=_TOP_UP.quantity)
            self.mark(*at, MarkKind.LINE, "", waiting)
            return
        place = self.line(name, _TOP_UP, at=at)
        if stated:
            self.lines[place] = self.strong(self.lines[place], stated[0])

    def without(self, gone: set[int]) -> None:
        """Lines taken out that were no lines; their marks go to the line of the same material."""
        if not gone:
            return
        places = [i for i in range(len(self.lines)) if i not in gone]
        new = {old: i for i, old in enumerate(places)}
        moved = []
        for mark in self.marks:
            if mark.line is None:
                moved.append(mark)
            elif mark.line in new:
                moved.append(replace(mark, line=new[mark.line]))
            else:
                material = self.lines[mark.line].material.id
                other = next((new[i] for i in places if self.lines[i].material.id == material), None)
                moved.append(replace(mark, line=other))
        self.marks = moved
        self.percents = {new[i]: said for i, said in self.percents.items() if i in new}
        self.lines = [self.lines[i] for i in places]

    def sized(self, amount: Amount) -> None:
        """A size that the whole is said to have."""
        if amount.quantity is not None and amount.quantity.kind in ("volume", "mass"):
            self.sizes.append(amount.quantity)

    def vessel(self, amount: Amount | None, glass: bool) -> None:
        """The vessel it goes in; an ounce of a vessel is a fluid one."""
        if glass:
            self.claims = replace(self.claims, glass=True)
        quantity = amount.quantity if amount else None
        if quantity is not None and quantity.unit == "oz":
            quantity = Quantity(quantity.value, "floz")
        if quantity is not None and quantity.kind == "volume":
            self.claims = replace(self.claims, vessel=quantity)


def _strength_and_share(material: Material, before: list[Percent], after: list[Percent]) -> tuple[Percent, Percent]:
    """Which of two per cents is how strong the stock is, and which its share of the batch."""
    first, second = (*before, *after)[:2]
    fits = [material.sold_as(one.middle) for one in (first, second)]
    if fits[0] != fits[1]:
        return (first, second) if fits[0] else (second, first)
    if (first.unit == "%") != (second.unit == "%"):
        return (second, first) if first.unit == "%" else (first, second)
    if before and after:
        return (first, second) if first.middle > second.middle else (second, first)
    return (second, first) if before else (first, second)


def shared(share: Share) -> tuple[Quantity | None, str]:
    """The amount said with a share, or else the one it comes to."""
    if share.said is not None:
        return share.said.quantity, share.said.wording if share.said.quantity is None else ""
    if share.size is None:
        return None, ""
    return Quantity(share.size.value * share.pct / 100.0, share.size.unit), ""


def _is_thinned(line: HeardLine) -> bool:
    return any(word in ("solution", "diluted", "dilute", "weak") for word in line.qualifiers)


def _has_strength(material: Material) -> bool:
    return material.strength is not None or material.alcohol is not None
