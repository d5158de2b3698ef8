"""What the drawing of an answer is to show, as plain numbers; drawings turns each of these into lines and words."""

from dataclasses import dataclass

#: Which look a layer takes, by the first role that matches.
_LOOKS = (
    ("alcohol", "alcohol"),
    ("water", "water"),
    ("humectant", "honey"),
    ("oxidiser", "mist"),
    ("additive", "gel"),
    ("thickener", "gel"),
    ("soap", "soap"),
    ("surfactant", "soap"),
    ("free-acid", "mist"),
    ("carbonate", "water"),
    ("borate", "gel"),
    ("salt", "alcohol"),
    ("sugar", "honey"),
    ("peel", "gel"),
)


def look_of(roles: frozenset[str]) -> str:
    """The look of a layer from the roles of its material.

    Args:
        roles: roles of the material.

    >>> look_of(frozenset({"alcohol", "active"})), look_of(frozenset())
    ('alcohol', 'plain')
    """
    return next((kind for role, kind in _LOOKS if role in roles), "plain")


@dataclass(frozen=True, slots=True)
class Layer:
    """One addition to a vessel: its name, the kind that gives its look, the level in mL once it is in, and how much
    of it goes in, in words, where the drawing is to say so.

    ``order`` is the number beside it, where that is not its place among the layers.
    """

    name: str
    kind: str
    level_mL: float
    top_up: bool = False
    amount: str = ""
    order: int | None = None


@dataclass(frozen=True, slots=True)
class Filled:
    """A vessel with its layers, the finished volume and what the vessel holds, in mL; what the free space is for."""

    layers: tuple[Layer, ...]
    finished_mL: float
    capacity_mL: float | None = None
    free: str = ""


@dataclass(frozen=True, slots=True)
class Window:
    """A rule line's window in per cent; None leaves an end open. ``verdict`` colours and marks it."""

    name: str
    minimum: float | None
    maximum: float | None
    verdict: str = ""


@dataclass(frozen=True, slots=True)
class Mark:
    """One active on a scale: by label, true, and the ends of its range, in per cent."""

    name: str
    label: float
    true: float
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class Rail:
    """A scale from 0 to 100 % with windows and marks."""

    windows: tuple[Window, ...]
    marks: tuple[Mark, ...]


@dataclass(frozen=True, slots=True)
class Block:
    """One bottle of a blend: its name, strength in per cent, parts, and the mL to measure."""

    name: str
    strength: float
    parts: float
    volume_mL: float


@dataclass(frozen=True, slots=True)
class Levelled:
    """Two bottles levelled to a strength in per cent."""

    first: Block
    second: Block
    target: float


@dataclass(frozen=True, slots=True)
class StockLine:
    """A stock of a strength in per cent; the chosen one is drawn strong."""

    name: str
    strength: float
    chosen: bool = False


@dataclass(frozen=True, slots=True)
class Additives:
    """Strength against the share of additive for stocks, across rule lines (name and per cent), the answer marked."""

    stocks: tuple[StockLine, ...]
    lines: tuple[tuple[str, float], ...]
    share_pct: float | None


@dataclass(frozen=True, slots=True)
class Stem:
    """An alcoholmeter's stem: what it reads and what is true, % v/v, in a liquid at a temperature in degC."""

    reading: float
    true: float
    celsius: float


@dataclass(frozen=True, slots=True)
class Bar:
    """One bar: its name, its length in the unit of the whole, the words at its end, the kind that gives its look."""

    name: str
    value: float
    words: str
    kind: str = "plain"


@dataclass(frozen=True, slots=True)
class Bars:
    """Bars to one scale, one below the other."""

    bars: tuple[Bar, ...]


@dataclass(frozen=True, slots=True)
class Zone:
    """A named stretch of a scale, up to a value."""

    name: str
    until: float


@dataclass(frozen=True, slots=True)
class Scale:
    """A scale from 0 with named zones, and where on it a value stands."""

    zones: tuple[Zone, ...]
    value: float
    words: str


@dataclass(frozen=True, slots=True)
class Bottle:
    """Bottles of one kind: name, brim and fill in mL, and how many."""

    name: str
    brim_mL: float
    fill_mL: float
    count: int


@dataclass(frozen=True, slots=True)
class Bottles:
    """Bottles in a row, filled, and what is left over in mL; the kind of what is in them gives its look."""

    bottles: tuple[Bottle, ...]
    left_mL: float
    kind: str = "plain"


Picture = Filled | Rail | Levelled | Additives | Stem | Bars | Scale | Bottles
