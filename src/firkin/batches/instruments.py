"""The instruments of a maker at the bench. They are simulated; real devices take their place in make_*."""

import threading
import time
from dataclasses import dataclass, field

from firkin.accounts.models import Workshop
from firkin.instruments.interfaces import Alcoholmeter, PhMeter, Scale
from firkin.instruments.ph_meter import SimulatedPhMeter
from firkin.instruments.sample import Sample
from firkin.instruments.scale import SimulatedScale
from firkin.instruments.stem import SimulatedAlcoholmeter

MOST_BENCHES = 200
JUG_G = 385.0
ROOM_C = 22.5
#: Flow while a button is held, g/s: a steady pour, a careful one, and none.
POURS = {"hold": 40.0, "careful": 8.0, "release": 0.0}


def make_scale() -> Scale:
    """The scale of one bench, with an empty jug on it."""
    scale = SimulatedScale(standing_g=JUG_G)
    scale.tare(time.monotonic())
    return scale


def make_ph_meter(sample: Sample) -> PhMeter:
    """The pH meter of one bench; a simulated one is told what it is held into, a real one needs no telling."""
    return SimulatedPhMeter(sample)


def make_alcoholmeter(sample: Sample) -> Alcoholmeter:
    """The alcoholmeter of one bench, likewise."""
    return SimulatedAlcoholmeter(sample)


@dataclass
class Instruments:
    """A scale, a pH meter and an alcoholmeter, what the two are held into, and the lock for one request at a time."""

    scale: Scale = field(default_factory=make_scale)
    sample: Sample = field(default_factory=lambda: Sample(celsius=ROOM_C))
    lock: threading.Lock = field(default_factory=threading.Lock)
    ph_meter: PhMeter = field(init=False)
    alcoholmeter: Alcoholmeter = field(init=False)

    def __post_init__(self) -> None:
        self.ph_meter = make_ph_meter(self.sample)
        self.alcoholmeter = make_alcoholmeter(self.sample)

    def pour(self, g_per_s: float, now: float) -> None:
        """Pour onto a simulated scale; 0 stops. On a real one the maker pours."""
        if isinstance(self.scale, SimulatedScale):
            if g_per_s:
                self.scale.hold(g_per_s, now)
            else:
                self.scale.release(now)

    def simulates(self, what: str) -> bool:
        """Whether what is read of something was not measured: the instrument is simulated."""
        kinds: dict[str, tuple[object, type]] = {
            "ph": (self.ph_meter, SimulatedPhMeter),
            "alcoholmeter": (self.alcoholmeter, SimulatedAlcoholmeter),
            "mass": (self.scale, SimulatedScale),
        }
        found = kinds.get(what)
        return found is not None and isinstance(*found)

    def may_read(self, what: str, workshop: Workshop) -> bool:
        """Whether it is offered at a bench: a real one always, a simulated one where the workshop tries them."""
        return workshop.simulated_instruments or not self.simulates(what)

    @property
    def simulated_scale(self) -> bool:
        """Whether holding a button is the pouring."""
        return isinstance(self.scale, SimulatedScale)


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
