"""How fast a product is used, from the bottles that were used up, and how sure that is.

Bottles are taken to run out as a Poisson process; with the prior of Jeffreys the rate given n of them in t days is a
Gamma of shape n + 1/2 and rate t (Gelman and others, Bayesian Data Analysis, 2.6 and 2.8; from memory). People use soap
more evenly than that, so that the range is rather too wide than too narrow.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime
from math import erfc, exp, lgamma, log, sqrt

from firkin.core.measures import figures, rounded

#: The ends of the range that is told: nine times in ten it is between them.
_LOW, _HIGH = 0.05, 0.95
_DAY_S = 86_400.0
_WEEK_D = 7.0


@dataclass(frozen=True, slots=True)
class Spell:
    """The time a bottle was in use: from when to when, or None while it still is, and what it holds in mL.

    ``used`` is false for what was thrown away or lost: it ends a spell, and no bottle was used up.
    """

    begun: datetime
    ended: datetime | None
    mL: float
    used: bool = True


@dataclass(frozen=True, slots=True)
class Rate:
    """mL used in a day: about ``mid``, nine times in ten between ``low`` and ``high``.

    ``bottles`` were used up in ``days`` days in which any was in use.
    """

    mid: float
    low: float
    high: float
    bottles: int
    days: float


def use_rate(spells: Iterable[Spell], now: datetime) -> Rate | None:
    """How fast a product is used; None while no bottle of it was used up.

    Days on which there was none to use do not count. Bottles in use at the same time count as one time.

    Args:
        spells: for each bottle, when it was in use.
        now: the hour it is asked for, with its time zone.

    >>> from datetime import timedelta, UTC
    >>> now = datetime(2026, 5, 29, tzinfo=UTC)
    >>> weeks = [now - timedelta(days=7 * n) for n in range(5)]
    >>> rate = use_rate([Spell(a, b, 475.0) for b, a in zip(weeks, weeks[1:])], now)
    >>> round(rate.mid), round(rate.low), round(rate.high), rate.bottles, rate.days
    (68, 28, 144, 4, 28.0)
    """
    there = sorted((one for one in spells if one.begun <= now), key=lambda one: one.begun)
    used = [one for one in there if one.used and one.ended is not None and one.ended <= now]
    days = _days_covered(there, now)
    if not used or days <= 0.0:
        return None
    mL = sum(one.mL for one in used) / len(used)
    shape = len(used) + 0.5
    low, high = (gamma_quantile(shape, share) / days * mL for share in (_LOW, _HIGH))
    return Rate(len(used) / days * mL, low, high, len(used), days)


def _days_covered(spells: Sequence[Spell], now: datetime) -> float:
    """Days on which at least one of the bottles was in use."""
    seconds, until = 0.0, None
    for one in spells:
        end = min(one.ended or now, now)
        begun = one.begun if until is None or one.begun > until else until
        if end > begun:
            seconds += (end - begun).total_seconds()
            until = end
        elif until is None:
            until = end
    return seconds / _DAY_S


def gamma_quantile(shape: float, share: float) -> float:
    """The value that a Gamma of a half-integer shape (1/2, 3/2, ...) and rate 1 stays under with a probability.

    By the closed form of its distribution and bisection, to ten figures. Raises ValueError for another shape, or a
    share that is not between 0 and 1.

    >>> round(gamma_quantile(0.5, 0.95), 4)  # half of chi-squared with one degree: 3.8415
    1.9207
    """
    if not 0.0 < share < 1.0 or shape <= 0.0 or (shape - 0.5) % 1.0:
        raise ValueError("a half-integer shape, and a share between 0 and 1")
    low, high = 0.0, shape + 20.0 * sqrt(shape) + 20.0
    for _ in range(200):
        middle = (low + high) / 2.0
        if 1.0 - _above(shape, middle) < share:
            low = middle
        else:
            high = middle
        if high - low <= 1e-10 * high:
            break
    return (low + high) / 2.0


def _above(shape: float, x: float) -> float:
    """The probability that a Gamma of a half-integer shape is above ``x`` (Abramowitz and Stegun, 26.4.5)."""
    if x <= 0.0:
        return 1.0
    terms = (exp((k + 0.5) * log(x) - x - lgamma(k + 1.5)) for k in range(int(shape - 0.5)))
    return min(1.0, erfc(sqrt(x)) + sum(terms))


def days_left(rate: Rate, mL: float) -> tuple[float, float, float]:
    """In how many days so much runs out: soonest, most likely, latest.

    Args:
        rate: rate of use with its bounds, mL a day.
        mL: what is left, mL.

    >>> [round(days, 1) for days in days_left(Rate(100.0, 50.0, 200.0, 4, 28.0), 1000.0)]
    [5.0, 10.0, 20.0]
    """
    return mL / rate.high, mL / rate.mid, mL / rate.low


def rate_words(rate: Rate) -> str:
    """How fast it is used, as a sentence's end.

    Args:
        rate: a rate of use in mL a day, with its bounds.

    >>> rate_words(Rate(157.0, 128.6, 185.7, 20, 90.0))
    '0.9 to 1.3 L a week'
    """
    low, high = rate.low * _WEEK_D, rate.high * _WEEK_D
    if high >= 1000.0:
        return f"{low / 1000.0:.1f} to {high / 1000.0:.1f} L a week"
    return f"{figures(rounded(low, 2))} to {figures(rounded(high, 2))} mL a week"
