"""The open format firkin-rehearsal/1: a rehearsal as plain data."""

from typing import Any

from firkin.core.audit import audit
from firkin.core.rehearsal import Event, Rehearsal
from firkin.exchange.reckoning_format import reckoning_to_dict

FORMAT = "firkin-rehearsal/1"


def rehearsal_to_dict(played: Rehearsal) -> dict[str, Any]:
    """The document of a rehearsal. Amounts in its events are as they were drawn, without rounding.

    >>> from firkin.core.formula import house_formulas
    >>> from firkin.core.rehearsal import rehearse
    >>> told = rehearsal_to_dict(rehearse(house_formulas()["who-one"].formula, 7))
    >>> told["format"], told["events"][0]["do"], told["label"]["words"][0]
    ('firkin-rehearsal/1', 'pour', 'Rehearsed, not made.')
    """
    return {
        "format": FORMAT,
        "seed": played.seed,
        "care": played.care.id,
        "events": [_event(event) for event in played.events],
        "reckoning": reckoning_to_dict(played.really, audit(played.really)),
        "label": {
            "strength": played.label.strength,
            "cautions": list(played.label.cautions),
            "words": list(played.label.words),
        },
    }


def _event(event: Event) -> dict[str, Any]:
    return {"at_min": event.at_min, "do": event.do, **event.more}
