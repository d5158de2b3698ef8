"""The pour guide: what the scale shows against the target, with the band that will do."""

from firkin.core.measures import figures
from firkin.drawings.svg import drawing, tag, text

_WIDTH, _LEFT, _RIGHT = 460.0, 20.0, 440.0


def pour_guide(shown_g: float, target_g: float, tolerance_g: float, *, overload: bool = False) -> tuple[str, str]:
    """The drawing, and the word of the hour: "pour", "slowly", "stop", "too much" or "overload".

    The scale runs to a fifth above the target; the band is the target with its tolerance.

    >>> pour_guide(100.0, 100.0, 2.0)[1], pour_guide(40.0, 100.0, 2.0)[1], pour_guide(106.0, 100.0, 2.0)[1]
    ('stop', 'pour', 'too much')
    """
    top = target_g * 1.2

    def x(grams: float) -> float:
        return _LEFT + (_RIGHT - _LEFT) * min(max(grams / top, 0.0), 1.0)

    word = _word(shown_g, target_g, tolerance_g, overload)
    low, high = x(target_g - tolerance_g), x(target_g + tolerance_g)
    parts = [
        tag("rect", x=_LEFT, y=44.0, width=_RIGHT - _LEFT, height=26.0, rx=3.0, klass="pour-ground"),
        tag(
            "rect",
            x=_LEFT,
            y=44.0,
            width=max(0.0, x(shown_g) - _LEFT),
            height=26.0,
            rx=3.0,
            klass=f"pour-in pour-{word.replace(' ', '-')}",
        ),
        tag("rect", x=low, y=38.0, width=max(high - low, 3.0), height=38.0, klass="pour-band"),
        tag("line", x1=x(target_g), x2=x(target_g), y1=32.0, y2=82.0, klass="pour-target"),
        text(x(target_g), 26.0, f"{figures(target_g)} g", "pour-word", "middle"),
        text(x(target_g), 100.0, f"± {figures(tolerance_g, 2)} g will do", "pour-small", "middle"),
    ]
    said = f"{figures(shown_g)} g of {figures(target_g)} g: {word}."
    return drawing(_WIDTH, 108.0, said, parts, "pour"), word


def _word(shown: float, target: float, tolerance: float, overload: bool) -> str:
    if overload:
        return "overload"
    if shown > target + tolerance:
        return "too much"
    if shown >= target - tolerance:
        return "stop"
    return "slowly" if shown >= target * 0.85 else "pour"
