"""A simulated kitchen scale: tare, pouring with flow and noise, settling, resolution, overload."""

import math
import random

from firkin.instruments.interfaces import Weight

_STEP_S = 0.05
_LAG_S = 0.35  # how slowly it follows
_RAMP_S = 0.4  # how slowly a stream starts and stops
_SETTLE_S = 0.8
_NOISE_POURING_G = 0.6
_NOISE_AT_REST_G = 0.08


class SimulatedScale:
    """A scale on which something is poured while the button is held; ``standing_g`` stands on it from the start.

    >>> scale = SimulatedScale(seed=1)
    >>> scale.tare(0.0)
    >>> scale.hold(20.0, 0.0)
    >>> scale.release(5.0)
    >>> shown = scale.read(10.0)
    >>> shown.settled, 85 < shown.grams < 110
    (True, True)
    """

    def __init__(
        self, resolution_g: float = 1.0, capacity_g: float = 5000.0, seed: int | None = None, standing_g: float = 0.0
    ) -> None:
        self.resolution_g = resolution_g
        self.capacity_g = capacity_g
        self._random = random.Random(seed)  # noqa: S311  noise, no secret
        self._time: float | None = None
        self._mass = standing_g
        self._shown = standing_g
        self._tare = 0.0
        self._stream = 0.0  # g/s now
        self._wanted = 0.0  # g/s while held
        self._quiet_since: float | None = None

    def put(self, grams: float, now: float) -> None:
        """Put something on it at once, such as a jug."""
        self._advance(now)
        self._mass += grams

    def hold(self, flow_g_per_s: float, now: float) -> None:
        """Begin to pour."""
        self._advance(now)
        self._wanted = flow_g_per_s

    def release(self, now: float) -> None:
        """Stop pouring; what is in the air still lands."""
        self._advance(now)
        self._wanted = 0.0

    def tare(self, now: float) -> None:
        """Show nothing for what stands on it."""
        self._advance(now)
        self._tare = self._mass

    def read(self, now: float) -> Weight:
        """What it shows."""
        self._advance(now)
        if self._mass > self.capacity_g:
            return Weight(self.capacity_g - self._tare, False, overload=True)
        pouring = self._stream > 0.05
        noise = self._random.gauss(0.0, _NOISE_POURING_G if pouring else _NOISE_AT_REST_G)
        grams = round((self._shown - self._tare + noise) / self.resolution_g) * self.resolution_g
        quiet = self._quiet_since is not None and now - self._quiet_since >= _SETTLE_S
        return Weight(grams + 0.0, quiet and abs(self._shown - self._mass) < self.resolution_g)

    def _advance(self, now: float) -> None:
        """Let time pass: the stream follows the hand, the mass the stream, the display the mass."""
        if self._time is None:
            self._time = now
        if now - self._time > 120.0:  # nobody was looking: it has long come to rest
            self._settle(now)
        while self._time + _STEP_S <= now:
            self._time += _STEP_S
            self._stream += (self._wanted - self._stream) * (1.0 - math.exp(-_STEP_S / _RAMP_S))
            if self._stream < 0.02 and not self._wanted:
                self._stream = 0.0
            self._mass += self._stream * _STEP_S
            self._shown += (self._mass - self._shown) * (1.0 - math.exp(-_STEP_S / _LAG_S))
            if self._stream:
                self._quiet_since = None
            elif self._quiet_since is None:
                self._quiet_since = self._time

    def _settle(self, now: float) -> None:
        """A hand that vanished let go: pouring ended."""
        self._wanted = self._stream = 0.0
        self._shown = self._mass
        self._time = self._quiet_since = now - 100.0
