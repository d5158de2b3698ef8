"""How a thing is made, act by act: the jug after each and the cup beside it, what comes in, a clock where it rests."""

from collections.abc import Sequence
from dataclasses import dataclass

from firkin.drawings.svg import drawing, number, tag, text

WIDTH, HEIGHT = 104.0, 74.0
_LEFT, _RIGHT, _TOP, _FOOT = 22.0, 58.0, 12.0, 64.0
_MOST_TICKS = 12
#: How much room a cup beside the jug takes, and its own size.
_BESIDE, _CUP_LEFT, _CUP_RIGHT, _CUP_TOP = 46.0, 10.0, 34.0, 34.0
#: Looks with how full a vessel is up to each, as a share of the whole (see questions.pictures.look_of).
Layers = Sequence[tuple[str, float]]


@dataclass(frozen=True, slots=True)
class CupDrawn:
    """A cup beside the jug: what stands in it, whether something goes into it now, and whether it is poured out now."""

    layers: Layers
    coming: bool = False
    pours: bool = False


def act_drawn(
    layers: Layers,
    title: str,
    *,
    coming: bool,
    resting: bool,
    portions: int,
    cup: CupDrawn | None = None,
    room: bool = False,
) -> str:
    """The jug after one act, and the cup that is in use then.

    ``portions`` is 1 for at once, 0 for a little at a time; ``room`` leaves a cup's room where there is none, so that
    the jugs of a plan stand below each other.
    """
    parts = []
    shift = _BESIDE if room or cup is not None else 0.0
    if cup is not None:
        parts += _cup(cup)
    parts += _jug(layers, coming=coming, portions=portions, shift=shift)
    if cup is not None and cup.pours:
        x, y = _LEFT + shift, _TOP + 2.0
        start, over = f"{_CUP_RIGHT - 4:.1f} {_CUP_TOP - 5:.1f}", f"{(_CUP_RIGHT + x) / 2:.1f} {_TOP - 16:.1f}"
        arc = f"M {start} Q {over} {x + 12:.1f} {y:.1f}"
        parts.append(tag("path", d=arc, klass="flow-arrow flow-arc"))
        parts.append(tag("path", d=f"M {x + 7:.1f} {y:.1f} h 10 l -5 7 z", klass="flow-tip"))
    if resting:
        x, y = _RIGHT + shift + 20.0, _FOOT - 14.0
        parts.append(tag("circle", cx=x, cy=y, r=11.0, klass="flow-clock"))
        parts.append(tag("path", d=f"M {x} {y - 7} V {y} L {x + 5} {y + 3}", klass="flow-clock"))
    return drawing(WIDTH + shift, HEIGHT, title, parts, "flow")


def _jug(layers: Layers, *, coming: bool, portions: int, shift: float) -> list[str]:
    left, right = _LEFT + shift, _RIGHT + shift
    parts = _filled(layers, left, right, _TOP)
    lip = f"M {left - 6:.1f} {_TOP - 6:.1f} Q {left:.1f} {_TOP - 4:.1f} {left:.1f} {_TOP + 4:.1f}"
    wall = f"{lip} V {_FOOT} H {right} V {_TOP - 4}"
    parts.append(tag("path", d=wall, klass="wall flow-wall"))
    parts.append(tag("line", x1=left - 3.0, x2=right + 3.0, y1=_FOOT + 4.0, y2=_FOOT + 4.0, klass="foot flow-foot"))
    if coming:
        parts += _arrow((left + right) / 2.0, max(_y(_full(layers), _TOP) - 3.0, _TOP + 2.0))
    if portions != 1 and coming:
        many = min(portions or 5, _MOST_TICKS)
        ys = [_TOP + 6.0 + (_FOOT - _TOP - 10.0) * i / max(1, many - 1) for i in range(many)]
        parts += [tag("line", x1=right + 4.0, x2=right + 10.0, y1=y, y2=y, klass="flow-tick") for y in ys]
        parts.append(text(right + 13.0, (_TOP + _FOOT) / 2.0 + 4.0, f"{portions}×" if portions else "…", "flow-times"))
    return parts


def _cup(cup: CupDrawn) -> list[str]:
    """The cup: smaller than the jug, without a lip."""
    parts = _filled(cup.layers, _CUP_LEFT, _CUP_RIGHT, _CUP_TOP)
    wall = f"M {_CUP_LEFT} {_CUP_TOP - 2} V {_FOOT} H {_CUP_RIGHT} V {_CUP_TOP - 2}"
    parts.append(tag("path", d=wall, klass="wall flow-wall"))
    parts.append(
        tag("line", x1=_CUP_LEFT - 3.0, x2=_CUP_RIGHT + 3.0, y1=_FOOT + 4.0, y2=_FOOT + 4.0, klass="foot flow-foot")
    )
    if cup.coming:
        parts += _arrow((_CUP_LEFT + _CUP_RIGHT) / 2.0, max(_y(_full(cup.layers), _CUP_TOP) - 3.0, _CUP_TOP + 2.0))
    return parts


def _filled(layers: Layers, left: float, right: float, top: float) -> list[str]:
    parts = []
    below = 0.0
    for look, full in layers:
        high, base = _y(full, top), _y(below, top)
        if base > high:
            parts.append(
                tag("rect", x=left, y=high, width=right - left, height=base - high, klass=f"layer layer-{look}")
            )
            parts.append(tag("line", x1=left, x2=right, y1=high, y2=high, klass="level"))
        below = max(below, full)
    return parts


def _arrow(middle: float, tip: float) -> list[str]:
    return [
        tag("line", x1=middle, x2=middle, y1=0.0, y2=tip - 5.0, klass="flow-arrow"),
        tag("path", d=f"M {middle - 5} {number(tip - 6)} h 10 l -5 7 z", klass="flow-tip"),
    ]


def _full(layers: Layers) -> float:
    return max((full for _, full in layers), default=0.0)


def _y(share: float, top: float) -> float:
    """The height of a level, the vessel a tenth larger than what it comes to hold."""
    return _FOOT - (_FOOT - top) * min(share, 1.0) / 1.1
