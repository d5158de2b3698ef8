"""Blending drawn as levelling: two blocks as wide as their parts and as high as their strengths.

What stands above the wanted level in the one fills what is missing in the other: the two shaded areas
are equal by label arithmetic.
"""

from firkin.core.measures import figures
from firkin.core.questions import Block
from firkin.drawings.svg import drawing, tag, text

WIDTH, HEIGHT = 460.0, 300.0
_LEFT, _RIGHT, _TOP, _BOTTOM = 44.0, 350.0, 34.0, 240.0


def levelling(first: Block, second: Block, target: float) -> str:
    """Draw two blocks, the stronger on the left, levelled to ``target`` per cent."""
    strong, weak = (first, second) if first.strength >= second.strength else (second, first)
    whole = strong.parts + weak.parts
    split = _LEFT + (_RIGHT - _LEFT) * (strong.parts / whole if whole else 0.5)

    def y(strength: float) -> float:
        return _BOTTOM - (_BOTTOM - _TOP) * strength / 100.0

    parts = [
        _box(_LEFT, split, y(min(strong.strength, target)), _BOTTOM, "block"),
        _box(_LEFT, split, y(strong.strength), y(target), "block-over"),
        _box(split, _RIGHT, y(weak.strength), _BOTTOM, "block"),
        _box(split, _RIGHT, y(target), y(weak.strength), "block-missing"),
        tag("line", x1=_LEFT - 6.0, x2=_RIGHT + 8.0, y1=y(target), y2=y(target), klass="level-line"),
        text(_RIGHT + 12.0, y(target) + 5.0, f"{figures(target)} %", "mark-text strong"),
        tag("line", x1=_LEFT, x2=_RIGHT, y1=_BOTTOM, y2=_BOTTOM, klass="ground"),
    ]
    for strength in range(0, 101, 20):
        parts.append(text(_LEFT - 10.0, y(strength) + 4.5, f"{strength}", "scale", "end"))
    parts.append(text(4.0, 16.0, "% v/v", "axis"))
    for block, left, right, anchor in ((strong, _LEFT, split, "start"), (weak, split, _RIGHT, "end")):
        at = left + 2.0 if anchor == "start" else right
        parts.append(text(at, _BOTTOM + 20.0, f"{figures(block.parts)} parts", "mark-text strong", anchor))
        parts.append(
            text(
                at,
                _BOTTOM + 38.0,
                f"{figures(block.volume_mL)} mL of {figures(block.strength)} %",
                "axis",
                anchor,
            )
        )
        if right - left > 56.0 and block.strength > 12.0:
            inside = y(min(block.strength, target)) + 20.0
            parts.append(text((left + right) / 2.0, inside, f"{figures(block.strength)} %", "mark-text", "middle"))
    title = (
        f"Levelling {figures(strong.strength)} % and {figures(weak.strength)} % to {figures(target)} %: "
        f"{figures(strong.parts)} parts to {figures(weak.parts)}."
    )
    return drawing(WIDTH, HEIGHT - 16.0, title, parts, "levelling")


def _box(left: float, right: float, top: float, bottom: float, klass: str) -> str:
    return tag("rect", x=left, y=top, width=max(0.0, right - left), height=max(0.0, bottom - top), klass=klass)
