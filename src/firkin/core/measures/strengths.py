"""Strengths: how much of an active a bottle holds, read from its label."""

import re
from dataclasses import dataclass
from enum import StrEnum

from firkin.core.errors import CannotRead
from firkin.core.measures.numerals import NUMBER, figures, plain_figures, read_number
from firkin.core.texts import quoted

BASES = ("v/v", "w/w", "w/v")

US_PROOF_PER_PCT = 2.0  # 27 CFR 5.1: proof is twice the per cent of alcohol by volume
UK_PROOF_PER_PCT = 100.0 / 57.1  # 100 degrees proof = 57.1 % v/v, as commonly rounded

_UNIT = re.compile(
    r"(?P<pct>%|per\s?cent|percent|pct)?\s*\(?(?P<basis>[vwm]\s*/\s*[vwm]|a\.?b\.?v\.?|(?:alc(?:ohol)?\.?\s*)?(?:by\s+)?vol(?:ume)?\.?"
    r"|(?:by\s+)?(?:wt|weight|mass)\.?)?\)?(?:\s*(?:available\s+)?chlorine)?"
    r"|(?P<gl>g\s*/\s*(?:l|litre|liter))"
    r"|(?P<proof>(?:°\s*|degrees\s*)?(?:us\s+)?proof)"
    r"|(?P<uk>proof[_ ]uk|(?:°|degrees\s*)?uk[_ ]proof)|(?P<ppm>ppm)",
    re.IGNORECASE,
)


class Side(StrEnum):
    """An end of a range, or of a window."""

    LOW = "low"
    HIGH = "high"


@dataclass(frozen=True, slots=True)
class Strength:
    """A strength in per cent, its basis, and the ends between which it may lie.

    >>> Strength(90.5, 90.0, 91.0, "v/v").exact
    False
    """

    value: float
    low: float
    high: float
    basis: str

    @classmethod
    def of(cls, value: float, basis: str) -> "Strength":
        """A strength without a range."""
        return cls(value, value, value, basis)

    @property
    def exact(self) -> bool:
        """True when the ends coincide."""
        return self.low == self.high

    @property
    def fraction(self) -> float:
        """The nominal strength as a fraction of 1."""
        return self.value / 100.0

    def end(self, side: Side) -> "Strength":
        """The low or the high end, as a strength without a range."""
        return Strength.of(self.low if side is Side.LOW else self.high, self.basis)

    def __str__(self) -> str:
        if self.exact:
            return f"{plain_figures(self.value, 10)} % {self.basis}"
        return f"{plain_figures(self.low, 10)}-{plain_figures(self.high, 10)} % {self.basis}"


def read_strength(text: str, usual_basis: str = "v/v") -> Strength:
    """Read a label: "96 % v/v", "92.4 % w/w", "96 % vol", "40 % ABV", "190 proof", "100 proof_uk", "1000 ppm",
    "50 g/L", "90-91 %".

    A bare per cent takes ``usual_basis``. Proof becomes per cent by volume, ppm per cent on
    ``usual_basis``. A number with neither is refused: 91 could be per cent or proof.

    Args:
        text: a strength as a label says it.
        usual_basis: what a bare per cent is meant by: "v/v", "w/w" or "w/v".

    Raises:
        CannotRead: with a sentence when the text is no strength or above 100 %.

    >>> [str(read_strength(text)) for text in ("50 g/L", "40 % ABV", "70 % by weight", "96 % (v/v)", "140° proof")]
    ['5 % w/v', '40 % v/v', '70 % w/w', '96 % v/v', '70 % v/v']
    >>> str(read_strength("190 proof")), read_strength("90-91 % v/v").value
    ('95 % v/v', 90.5)
    """
    stripped = re.sub(r"\s+", " ", text.strip())
    if not stripped:
        raise CannotRead("A strength is missing. Write one such as 70 %, 92.4 % w/w or 190 proof.")
    first = NUMBER.match(stripped)
    if first is None:
        raise CannotRead(f"{quoted(stripped)} is not a strength. Write one such as 70 % or 190 proof.")
    rest = stripped[first.end() :]
    rest = re.sub(r"^\s*%\s*(?=[-–—]|to\b)", "", rest, flags=re.IGNORECASE)
    between = re.match(r"\s*(?:-|–|—|to\b)\s*", rest, re.IGNORECASE)
    ends = [read_number(first.group())]
    if between:
        second = NUMBER.match(rest, between.end())
        if second is None:
            raise CannotRead(f"{quoted(stripped)} is not a strength. Write a range as 90-91 %.")
        ends.append(read_number(second.group()))
        rest = rest[second.end() :]
    unit = _UNIT.fullmatch(rest.strip())
    if unit is None:
        raise CannotRead(f"{quoted(rest)} is not a strength unit. Write % v/v, % w/w, % w/v, proof, proof_uk or ppm.")
    if not rest.strip() or not (unit["pct"] or unit["proof"] or unit["uk"] or unit["ppm"] or unit["gl"]):
        raise CannotRead(
            f"Say what {stripped[:40]} is: “{first.group()} %” and “{first.group()} proof” differ by half."
        )
    basis, factor = _meaning(unit, usual_basis)
    low, high = ends[0] * factor, ends[-1] * factor
    if low > high:
        raise CannotRead(f"{stripped[:40]}: write the lower end of a range first.")
    if low < 0:
        raise CannotRead(f"{stripped[:40]}: a strength cannot be below 0.")
    if high > 100:
        hint = " US proof runs from 0 to 200." if unit["proof"] else ""
        if unit["pct"] and high <= 200:
            hint = f" If the label says {figures(high)} proof, write “{figures(high)} proof”."
        raise CannotRead(f"{stripped[:40]}: a strength cannot be above 100 %.{hint}")
    return Strength((low + high) / 2.0, low, high, basis)


def _meaning(unit: re.Match[str], usual_basis: str) -> tuple[str, float]:
    """The basis of a strength unit, and the factor that brings its number to per cent."""
    if unit["proof"]:
        return "v/v", 1.0 / US_PROOF_PER_PCT
    if unit["uk"]:
        return "v/v", 1.0 / UK_PROOF_PER_PCT
    if unit["ppm"]:
        return usual_basis, 1e-4
    if unit["gl"]:
        return "w/v", 0.1
    basis = (
        re.sub(r"\s", "", (unit["basis"] or usual_basis).lower()).replace("m", "w", 2) if unit["basis"] else usual_basis
    )
    if unit["basis"] and "/" not in basis:
        basis = "v/v" if "v" in basis else "w/w"
    if basis not in BASES:
        raise CannotRead(f"“{basis}” is not a basis. Write v/v, w/w or w/v.")
    return basis, 1.0
