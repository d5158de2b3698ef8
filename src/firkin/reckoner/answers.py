"""What a question's page shows as its answer."""

from dataclasses import dataclass, field

from firkin.core.formula import Formula
from firkin.core.measures import Working


@dataclass(frozen=True)
class Answer:
    """The big figure first, then rows of name and value, sentences, warnings, a drawing, arithmetic.

    ``cautions`` are ids of core's cautions; ``formula`` can be kept in the book.
    """

    big: str
    unit: str
    rows: tuple[tuple[str, str], ...] = ()
    says: tuple[str, ...] = ()
    warns: tuple[str, ...] = ()
    drawing: str = ""
    working: Working = ()
    cautions: tuple[str, ...] = field(default=())
    formula: Formula | None = None
