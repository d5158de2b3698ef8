"""The additive curve: final strength against the share of additive, a line for each stock."""

from collections.abc import Sequence

from firkin.core.measures import figures, rounded_down
from firkin.core.questions import StockLine
from firkin.drawings.svg import drawing, spread, tag, text

WIDTH, HEIGHT = 460.0, 312.0
_LEFT, _RIGHT, _TOP, _BOTTOM = 48.0, 384.0, 32.0, 262.0
_ROW = 22.0  # a stock's name below the plot
MOST_SHARE = 60.0


def additive_curve(stocks: Sequence[StockLine], lines: Sequence[tuple[str, float]], answer_share: float | None) -> str:
    """Draw label strength = stock x (1 - share) for each stock, rule lines across, the answer marked."""
    top = 100.0

    def x(share: float) -> float:
        return _LEFT + (_RIGHT - _LEFT) * share / MOST_SHARE

    def y(strength: float) -> float:
        return _BOTTOM - (_BOTTOM - _TOP) * strength / top

    parts = [tag("rect", x=_LEFT, y=_TOP, width=_RIGHT - _LEFT, height=_BOTTOM - _TOP, klass="plot")]
    for level in range(0, 101, 20):
        parts.append(tag("line", x1=_LEFT - 4.0, x2=_LEFT, y1=y(level), y2=y(level), klass="tick"))
        parts.append(text(_LEFT - 7.0, y(level) + 4.5, f"{level}", "scale", "end"))
    for share in range(0, 61, 10):
        parts.append(tag("line", x1=x(share), x2=x(share), y1=_BOTTOM, y2=_BOTTOM + 5.0, klass="tick"))
        parts.append(text(x(share), _BOTTOM + 22.0, f"{share} %", "scale", "middle"))
    parts.append(text((_LEFT + _RIGHT) / 2.0, _BOTTOM + 43.0, "additive, share of the whole", "axis", "middle"))
    parts.append(text(4.0, 18.0, "% v/v", "axis"))
    for name, strength in lines:
        parts.append(tag("line", x1=_LEFT, x2=_RIGHT, y1=y(strength), y2=y(strength), klass="rule-across"))
        parts.append(text(_LEFT + 5.0, y(strength) + 15.0, name, "rule-name"))
    ordered = sorted(stocks, key=lambda stock: -stock.strength)
    ends = [y(stock.strength * (1.0 - MOST_SHARE / 100.0)) for stock in ordered]
    for stock, end, place in zip(ordered, ends, spread(ends, 20.0, _TOP, _BOTTOM - 4.0), strict=True):
        klass = "stock-line chosen" if stock.chosen else "stock-line"
        parts.append(tag("line", x1=_LEFT, y1=y(stock.strength), x2=_RIGHT, y2=end, klass=klass))
        parts.append(tag("line", x1=_RIGHT, y1=end, x2=_RIGHT + 8.0, y2=place, klass="leader"))
        strong = " strong" if stock.chosen else ""
        parts.append(text(_RIGHT + 11.0, place + 4.5, f"{figures(stock.strength)} %", f"stock-name{strong}"))
    below = HEIGHT + 20.0
    for row, stock in enumerate(ordered):
        strong = " strong" if stock.chosen else ""
        words = f"{figures(stock.strength)} %  {stock.name}"
        parts.append(text(_LEFT, below + _ROW * row, words, f"stock-name{strong}"))
    chosen = next((stock for stock in stocks if stock.chosen), None)
    if chosen is not None and answer_share is not None:
        at = min(answer_share, MOST_SHARE)
        height = y(chosen.strength * (1.0 - at / 100.0))
        parts.append(tag("line", x1=x(at), x2=x(at), y1=height, y2=_BOTTOM, klass="plumb"))
        parts.append(tag("circle", cx=x(at), cy=height, r=5.5, klass="mark-true"))
        side = "end" if at > 40.0 else "start"
        offset = -9.0 if side == "end" else 9.0
        words = f"{figures(rounded_down(answer_share, 3), 3)} % additive"
        parts.append(text(x(at) + offset, _BOTTOM - 10.0, words, "mark-text strong", side))
    said = "; ".join(f"{stock.name} {figures(stock.strength)} %" for stock in ordered)
    title = f"Final strength against additive share, for {said}."
    return drawing(WIDTH, below + _ROW * len(ordered) - 12.0, title, parts, "curve")
