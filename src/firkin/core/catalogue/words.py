"""The words of the trade, as a maker is told them, and the fields of forms each of them explains."""

from dataclasses import dataclass
from functools import cache

from firkin.core import datafiles


@dataclass(frozen=True, slots=True)
class Word:
    """A word of the trade: its name, what it means, other words it is found by, where the guide says more, and the
    labels of fields it stands beside."""

    id: str
    name: str
    text: str
    terms: str = ""
    see: str = ""
    beside: tuple[str, ...] = ()


@cache
def words() -> dict[str, Word]:
    """Every word by id.

    >>> words()["qs"].text
    'As much as is needed: top up with it to the full size.'
    """
    table = datafiles.toml("catalogue/words.toml")
    return {key: Word(key, **row | {"beside": tuple(row.get("beside", ()))}) for key, row in table.items()}


@cache
def word_beside(label: str) -> Word | None:
    """The word that explains a field of this label; None where it speaks for itself.

    Args:
        label: The label as it stands on the page.

    >>> word_beside("Strength on the label").id
    'strength'
    >>> word_beside("Name") is None
    True
    """
    return next((word for word in words().values() if label in word.beside), None)
