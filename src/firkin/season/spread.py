"""How much a product's use spreads, as a share of it: from its bottles, or as is usual."""

from firkin.accounts.models import Workshop
from firkin.core.season import USUAL_SPREAD
from firkin.season.picture import Shown
from firkin.use.standing import standings

#: Between the 5th and the 95th of 100 lie so many standard deviations of a bell (NIST handbook, 1.3.6.7.1).
_BETWEEN = 3.29
#: Nobody's use is surer, or wilder, than this.
_LEAST, _MOST = 0.05, 1.0


def spreads_of(workshop: Workshop, shown: Shown) -> dict[str, float]:
    """The spread of each product of a plan, by its name."""
    rates = {one.formula.name: one.rate for one in standings(workshop)}
    found = {}
    for product in shown.core.season.products:
        rate = rates.get(product.id)
        if rate is None or rate.mid <= 0.0:
            found[product.id] = USUAL_SPREAD
        else:
            found[product.id] = min(_MOST, max(_LEAST, (rate.high - rate.low) / _BETWEEN / rate.mid))
    return found
