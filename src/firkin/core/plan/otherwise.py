"""What the usual way does otherwise than a recipe tells, where that matters, and why."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from firkin.core.catalogue import Material
from firkin.core.plan.acts import Act
from firkin.core.texts import uncapped

#: A recipe of fewer pours has no order to speak of.
_FEWEST_POURS = 3


@dataclass(frozen=True, slots=True)
class Otherwise:
    """A pour that the usual way does at another place: the place of its act, the rule, and why, in two sentences."""

    place: int
    rule: str
    why: str


def otherwise(told: Sequence[Act], usual: Sequence[Act], materials: Sequence[Material]) -> tuple[Otherwise, ...]:
    """Where a told procedure pours at a place that the usual one avoids. All rules: common practice, no source.

    Args:
        told: the acts as a recipe tells them.
        usual: the acts of the usual way for the same lines.
        materials: what each line is, in order.

    >>> from firkin.core.catalogue import find
    >>> water, gum, glycerol = find("water"), find("xanthan gum"), find("glycerol")
    >>> acts = [Act("pour", "", (line,)) for line in (1, 0, 2)]
    >>> [one.rule for one in otherwise(acts, [acts[1], acts[0], acts[2]], (water, gum, glycerol))]
    ['thickener-dry']
    """
    avoided = {(one.rule, line) for one, line in _met(usual, materials)}
    return tuple(one for one, line in _met(told, materials) if (one.rule, line) not in avoided)


def _met(acts: Sequence[Act], materials: Sequence[Material]) -> Iterator[tuple[Otherwise, int]]:
    """Every pour that a rule speaks of, with its line."""
    vessels: dict[str, list[Material]] = {}
    pours = [(place, act, line) for place, act in enumerate(acts) for line in act.lines if line < len(materials)]
    for place, act in enumerate(acts):
        poured = vessels.pop(act.source, []) if act.source else []
        there = vessels.setdefault(act.vessel, [])
        for line in (line for line in act.lines if line < len(materials)):
            one = materials[line]
            more = any(later > place and other.vessel == act.vessel for later, other, _ in pours)
            found = _of_pour(one, there, more)
            if found is None and place == pours[-1][0] and act.do != "top" and len(pours) >= _FEWEST_POURS:
                found = _of_last(one, act)
            if found is not None:
                yield Otherwise(place, *found), line
            there.append(one)
        there += poured


def _of_pour(one: Material, there: Sequence[Material], more: bool) -> tuple[str, str] | None:
    """What speaks against pouring a material onto what is in its vessel; ``more`` where something follows there."""
    roles = {role for other in there for role in other.roles}
    name = uncapped(one.name)
    wetted = "thickener" in one.roles and one.solid and not one.disperses_in_alcohol
    if wetted and not there and more:
        return (
            "thickener-dry",
            f"Liquid poured onto {name} makes lumps. Put the liquid in first and stir the powder in.",
        )
    if wetted and "alcohol" in roles and "water" not in roles:
        return "thickener-in-alcohol", f"In alcohol {name} clumps. Let it swell in water first."
    if "needs-neutraliser" in one.roles and "neutraliser" in roles:
        return "neutraliser-first", f"With the neutraliser in already, {name} gels in lumps. Neutralise last."
    if "water" in one.roles and "water" not in roles:
        if "chlorine" in roles:
            return "water-onto-bleach", "Water poured onto bleach splashes bleach. Pour the bleach into the water."
        if any({"soap", "surfactant"} & other.roles and not other.solid for other in there):
            return "water-onto-soap", "Water poured onto soap foams up. Put the water in first and slide the soap in."
    return None


def _of_last(one: Material, act: Act) -> tuple[str, str] | None:
    """What speaks against pouring a material last of all."""
    if "viscous" in one.roles and "surfactant" not in one.roles and act.portions == 1:
        name = uncapped(one.name)
        return "clings-last", f"Poured last, some {name} stays in its measure. Poured earlier, the rest rinses it in."
    return None
