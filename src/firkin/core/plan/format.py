"""Acts as a file or a form holds them (docs/formats: steps of firkin-recipe/1)."""

from collections.abc import Iterable
from typing import Any

from firkin.core.errors import CannotReckon
from firkin.core.formula import shares_of
from firkin.core.measures import hours_words, read_hours
from firkin.core.plan.acts import DOES, Act

_TIMES = {"wait": "wait_h", "timer": "timer_h", "every": "every_h", "for": "for_h"}
_WORDS = ("how", "until", "vessel", "caution", "word")


def acts_to_list(acts: Iterable[Act]) -> list[dict[str, Any]]:
    """Acts with what each has; a share, a manner or a time that was not told is absent.

    Args:
        acts: the acts in order.

    >>> acts_to_list([Act("rest", "Leave it.", wait_h=12.0, at=(3, 9))])
    [{'do': 'rest', 'text': 'Leave it.', 'at': [3, 9], 'wait': '12 h'}]
    """
    return [_row(act) for act in acts]


def _row(act: Act) -> dict[str, Any]:
    said: dict[str, Any] = {
        "lines": list(act.lines),
        "share": act.shares[0] if len(act.shares) == 1 else list(act.shares),
        "portions": {0: "several", 1: None}.get(act.portions, act.portions),
        **{key: hours_words(hours) if (hours := getattr(act, name)) else None for key, name in _TIMES.items()},
        "from": act.source,
        **{key: getattr(act, key) for key in _WORDS},
        "temperature": f"{act.temperature:g} degC" if act.temperature is not None else None,
    }
    row = {"do": act.do, "text": act.text, "at": list(act.at)}
    return row | {key: value for key, value in said.items() if value not in (None, "", [])}


def acts_from_list(rows: Iterable[dict[str, Any]], lines: int) -> tuple[Act, ...]:
    """Acts for a recipe of so many lines.

    Args:
        rows: acts as acts_to_list writes them.
        lines: how many lines the recipe has.

    Raises:
        CannotReckon: where an act does what is none, or names a line that is not there.

    >>> acts_from_list(acts_to_list([Act("pour", "Add it.", (0,), portions=4)]), 1)[0].portions
    4
    """
    return tuple(_act(row, lines) for row in rows)


def _act(row: dict[str, Any], lines: int) -> Act:
    named = tuple(int(line) for line in row.get("lines", ()))
    if row["do"] not in DOES or not all(0 <= line < lines for line in named):
        raise CannotReckon(f"“{row['do']}” of lines {named} is no act of this recipe.")
    portions = row.get("portions", 1)
    heat = row.get("temperature")
    at = row.get("at", (0, 0))
    times: dict[str, Any] = {name: read_hours(row[key]) for key, name in _TIMES.items() if key in row}
    said: dict[str, Any] = {key: str(row[key]) for key in _WORDS if key in row}
    return Act(
        row["do"],
        str(row["text"]),
        named,
        shares_of(row),
        0 if portions == "several" else int(portions),
        temperature=float(str(heat).split()[0]) if heat else None,
        source=str(row.get("from", "")),
        at=(int(at[0]), int(at[1])),
        **times,
        **said,
    )
