"""The instruments of a maker at the bench. They are simulated; real devices take their place in Instruments."""

import threading
import time
from dataclasses import dataclass, field

from firkin.instruments.interfaces import Alcoholmeter, PhMeter
from firkin.instruments.ph_meter import SimulatedPhMeter
from firkin.instruments.sample import Sample
from firkin.instruments.scale import SimulatedScale
from firkin.instruments.stem import SimulatedAlcoholmeter

MOST_BENCHES = 200
JUG_G = 385.0
ROOM_C = 22.5
#: Flow of a steady pour and of a careful one, g/s.
POUR_G_PER_S = 40.0
CAREFUL_G_PER_S = 8.0


def make_scale() -> SimulatedScale:
    """The scale of one bench, with an empty jug on it."""
    scale = SimulatedScale(standing_g=JUG_G)
    scale.tare(time.monotonic())
    return scale


@dataclass
class Instruments:
    """A scale, a pH meter and an alcoholmeter, what the two are held into, and the lock for one request at a time."""

    scale: SimulatedScale = field(default_factory=make_scale)
    sample: Sample = field(default_factory=lambda: Sample(celsius=ROOM_C))
    lock: threading.Lock = field(default_factory=threading.Lock)
    ph_meter: PhMeter = field(init=False)
    alcoholmeter: Alcoholmeter = field(init=False)

    def __post_init__(self) -> None:
        self.ph_meter = SimulatedPhMeter(self.sample)
        self.alcoholmeter = SimulatedAlcoholmeter(self.sample)


_benches: dict[int, Instruments] = {}
_guard = threading.Lock()


def instruments_of(user: int) -> Instruments:
    """The instruments on a maker's bench; those that stood longest unused are put away."""
    with _guard:
        found = _benches.pop(user, None) or Instruments()
        _benches[user] = found
        while len(_benches) > MOST_BENCHES:
            _benches.pop(next(iter(_benches)))
        return found
