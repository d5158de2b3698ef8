"""A recipe as heard or seen: lines, claims, what was not understood, and where in the text each of them stands."""

from dataclasses import dataclass, field, replace
from enum import StrEnum
from fractions import Fraction

from firkin.core.catalogue import Material, families
from firkin.core.errors import CannotRead, CannotReckon
from firkin.core.formula import UNCLAIMED, UNCLAIMED_LINE, Claim, Claims, Formula, Line, LineClaims, Step
from firkin.core.measures import NUMBER, Quantity, Strength, read_quantity
from firkin.core.plan import Act, without_line
from firkin.core.texts import uncapped


class MarkKind(StrEnum):
    """What a marked piece of a text was taken for."""

    LINE = "line"
    CLAIM = "claim"
    STEP = "step"
    ADVICE = "advice"
    TITLE = "title"
    UNREAD = "unread"


@dataclass(frozen=True, slots=True)
class Mark:
    """A piece of the text from ``start`` to ``end``, and what it was taken for; ``line`` is the position of a line."""

    start: int
    end: int
    kind: MarkKind
    what: str = ""
    line: int | None = None


@dataclass(frozen=True, slots=True)
class HeardLine:
    """One line as read; ``wording`` is its amount as written, ``said`` its name, ``at`` where it stands in the text.

    ``strength_said`` is its strength in the unit of the text: a proof stays a proof.
    """

    material: Material
    amount: Quantity | None = None
    strength: Strength | None = None
    claims: LineClaims = UNCLAIMED_LINE
    wording: str = ""
    said: str = ""
    qualifiers: tuple[str, ...] = ()
    at: tuple[int, int] = (0, 0)
    strength_said: str = ""

    def words(self) -> tuple[str, str, str]:
        """Material, strength and amount as text that reads back: "isopropanol", "70 % v/v", "3 part".

        >>> from firkin.core.catalogue import find
        >>> HeardLine(find("water"), Quantity(3.0, "part")).words()
        ('water', '', '3 part')
        """
        name = self.material.written if self.material.known else self.material.name
        return name, str(self.strength or ""), self._amount_words()

    def _amount_words(self) -> str:
        """The amount as it was written, where that reads back as it; else in figures."""
        if self.amount is None:
            return self.wording
        try:
            same = bool(NUMBER.match(self.wording)) and read_quantity(self.wording) == self.amount
        except CannotRead:
            same = False
        return self.wording if same else _in_fractions(self.amount)


@dataclass(frozen=True, slots=True)
class HeardDanger:
    """A dangerous thing that a text names outside its lines; ``sure`` where the text says that it goes in.

    ``said`` are its words in the text, ``at`` where they stand.
    """

    said: str
    material: Material
    sure: bool = True
    at: tuple[int, int] = (0, 0)


def _in_fractions(amount: Quantity) -> str:
    """An amount as spoons and cups are marked: "2/3 cup"; else in decimals."""
    near = Fraction(amount.value).limit_denominator(8)
    whole, part = divmod(near.numerator, near.denominator)
    household = amount.kind in ("volume", "part") and amount.unit not in ("mL", "L", "drop")
    marked = household and near.denominator in (2, 3, 4, 8)
    if not marked or abs(near - Fraction(amount.value)) > 1e-9:
        return str(amount)
    return f"{f'{whole} ' if whole else ''}{part}/{near.denominator} {amount.unit}"


@dataclass(frozen=True, slots=True)
class Aside:
    """A further recipe or size of a text: its heading, where it stands, and what it was read as."""

    heading: str
    at: tuple[int, int]
    recipe: "Recipe"


#: An account longer than this, in characters, is talk with a recipe in it (common practice, no source).
LONG = 1_500
#: Fewer things than this that are measured make no recipe: then everything that was heard stands.
FEWEST = 2


@dataclass(frozen=True, slots=True)
class Recipe:
    """What was read: lines, size, claims, steps; every mark in the text; and what was left out unseen.

    ``unread`` are the pieces that were not understood, ``dangers`` dangerous things named outside the lines. ``others``
    are further recipes or sizes of the text that were set aside; ``first`` is then the heading of this one.
    ``confirmed`` where a maker has looked at the lines.
    """

    lines: tuple[HeardLine, ...] = ()
    make: Quantity | None = None
    claim: Claim | None = None
    claims: Claims = UNCLAIMED
    family: str = "other"
    basis: str = "volume"
    guidelines: tuple[str, ...] = ()
    cut: float = 0.0
    plan: tuple[Act, ...] = ()
    marks: tuple[Mark, ...] = ()
    unread: tuple[str, ...] = ()
    remarks: tuple[str, ...] = ()
    left_out: str = ""
    dangers: tuple[HeardDanger, ...] = ()
    text: str = field(default="", repr=False)
    first: str = ""
    others: "tuple[Aside, ...]" = ()
    confirmed: bool = False

    @property
    def at_length(self) -> bool:
        """True for a long account with a recipe in it: what is named in passing there is mostly talk."""
        return len(self.text) > LONG and sum(line.amount is not None for line in self.lines) >= FEWEST

    @property
    def steps(self) -> tuple[Step, ...]:
        """The plan as the steps of a formula; none where the text tells no way of making."""
        return tuple(act.step() for act in self.plan)

    def measured(self) -> "Recipe":
        """The recipe with the lines alone whose amount is known.

        >>> from firkin.core.catalogue import find
        >>> len(Recipe((HeardLine(find("water")), HeardLine(find("salt"), Quantity(1.0, "g")))).measured().lines)
        1
        """
        told = self
        for place in reversed([i for i, line in enumerate(self.lines) if line.amount is None]):
            lines = (*told.lines[:place], *told.lines[place + 1 :])
            told = replace(told, lines=lines, plan=without_line(told.plan, place))
        return told

    def formula(self, name: str = "A recipe heard") -> Formula:
        """The recipe as a formula.

        Raises CannotReckon where a line has no amount yet.
        """
        lines = []
        for i, line in enumerate(self.lines):
            if line.amount is None:
                raise CannotReckon(f"How much {uncapped(line.material.name)}? The text does not say.").at(
                    "lines", i, "amount"
                )
            lines.append(Line(line.material, line.amount, line.strength, claims=line.claims))
        return Formula(
            name,
            tuple(lines),
            self.family,
            self.basis,
            self.make,
            guidelines=self.guidelines or families()[self.family].lines,
            claim=self.claim,
            claims=self.claims,
            steps=self.steps,
            cut=self.cut,
            dose=self.claims.dose if self.claims.dose and self.claims.dose.kind in ("volume", "mass") else None,
            loads=self.claims.loads or None,
        )
