"""How a thing is made, act by act: the jug as it stands after each, what has just come in, a clock where it rests."""

from collections.abc import Sequence

from firkin.drawings.svg import drawing, number, tag, text

WIDTH, HEIGHT = 104.0, 74.0
_LEFT, _RIGHT, _TOP, _FOOT = 22.0, 58.0, 12.0, 64.0
_MOST_TICKS = 12


def act_drawn(layers: Sequence[tuple[str, float]], title: str, *, coming: bool, resting: bool, portions: int) -> str:
    """The jug after one act.

    ``layers`` are looks (see questions.pictures.look_of) with how full the jug is up to each, as a share of the whole;
    ``portions`` is 1 for at once, 0 for a little at a time.
    """
    parts = []
    below = 0.0
    for look, full in layers:
        top, base = _y(full), _y(below)
        if base > top:
            parts.append(
                tag("rect", x=_LEFT, y=top, width=_RIGHT - _LEFT, height=base - top, klass=f"layer layer-{look}")
            )
            parts.append(tag("line", x1=_LEFT, x2=_RIGHT, y1=top, y2=top, klass="level"))
        below = max(below, full)
    lip = f"M {_LEFT - 6:.1f} {_TOP - 6:.1f} Q {_LEFT:.1f} {_TOP - 4:.1f} {_LEFT:.1f} {_TOP + 4:.1f}"
    wall = f"{lip} V {_FOOT} H {_RIGHT} V {_TOP - 4}"
    parts.append(tag("path", d=wall, klass="wall flow-wall"))
    parts.append(tag("line", x1=_LEFT - 3.0, x2=_RIGHT + 3.0, y1=_FOOT + 4.0, y2=_FOOT + 4.0, klass="foot flow-foot"))
    middle = (_LEFT + _RIGHT) / 2.0
    if coming:
        tip = max(_y(below) - 3.0, _TOP + 2.0)
        parts.append(tag("line", x1=middle, x2=middle, y1=0.0, y2=tip - 5.0, klass="flow-arrow"))
        parts.append(tag("path", d=f"M {middle - 5} {number(tip - 6)} h 10 l -5 7 z", klass="flow-tip"))
    if portions != 1 and coming:
        many = min(portions or 5, _MOST_TICKS)
        ys = [_TOP + 6.0 + (_FOOT - _TOP - 10.0) * i / max(1, many - 1) for i in range(many)]
        parts += [tag("line", x1=_RIGHT + 4.0, x2=_RIGHT + 10.0, y1=y, y2=y, klass="flow-tick") for y in ys]
        parts.append(text(_RIGHT + 13.0, (_TOP + _FOOT) / 2.0 + 4.0, f"{portions}×" if portions else "…", "flow-times"))
    if resting:
        x, y = _RIGHT + 20.0, _FOOT - 14.0
        parts.append(tag("circle", cx=x, cy=y, r=11.0, klass="flow-clock"))
        parts.append(tag("path", d=f"M {x} {y - 7} V {y} L {x + 5} {y + 3}", klass="flow-clock"))
    return drawing(WIDTH, HEIGHT, title, parts, "flow")


def _y(share: float) -> float:
    """The height of a level, the jug a tenth larger than what it comes to hold."""
    return _FOOT - (_FOOT - _TOP) * min(share, 1.0) / 1.1
