"""The plan that travels with the chips of a recipe: as it was kept, moved by its cards, and as the chips stand."""

import json
from collections.abc import Sequence

from firkin.core.catalogue import Material, find
from firkin.core.errors import CannotReckon
from firkin.core.plan import Act, acts_from_list, handed_on, renamed, with_every_line, without_line
from firkin.core.recipe import HeardLine, Recipe
from firkin.core.texts import uncapped
from firkin.ui.rows import Act as Press

Plan = tuple[Act, ...]


def kept_plan(text: str, lines: int) -> Plan:
    """The plan that travelled with so many chips; none where it does not arrive whole."""
    try:
        return acts_from_list(json.loads(text), lines) if text else ()
    except (CannotReckon, ValueError, TypeError, KeyError, AttributeError, IndexError):
        return ()


def after(press: Press | None, plan: Plan) -> Plan:
    """The plan after a press that moves a card or takes one out."""
    if press is None or press.kind != "act" or press.at >= len(plan):
        return plan
    if press.verb == "drop" and (plan[press.at].lines or plan[press.at].source):
        return plan  # what goes in is taken out among the chips, and a cup with what is in it
    return tuple(plan[i] for i in press.order(len(plan)) if i is not None)


def without_chip(
    plan: Plan, rows: Sequence[dict[str, str]], gone: int, recipe: Recipe | None, own: tuple[Material, ...]
) -> Plan:
    """The plan once a chip is out; what is done with a chip told twice is done with its other telling."""
    name = rows[gone]["material"]
    others = [at for at, row in enumerate(rows) if at != gone and row["material"] == name]
    if name and rows[gone].get("twice") == "on" and len(others) == 1 and recipe is not None:
        written = find(name, own).written
        tellings = [line.at for line in recipe.lines if line.material.written == written]
        plan = handed_on(plan, gone, others[0], tellings)
    return without_line(plan, gone)


def of_the_chips(plan: Plan, chips: Sequence[HeardLine], recipe: Recipe | None) -> Plan:
    """The plan for the chips as they stand: a line put in goes in, a corrected one goes in under its new name."""
    plan = with_every_line(plan, [uncapped(chip.material.name) for chip in chips])
    told = {line.material.written for line in recipe.lines} if recipe is not None else set()

    def as_it_is_now(act: Act) -> Act:
        pours = bool(told) and len(act.lines) == 1
        if not pours or chips[act.lines[0]].material.written in told:
            return act
        return renamed(act, uncapped(chips[act.lines[0]].material.name))

    return tuple(map(as_it_is_now, plan))
