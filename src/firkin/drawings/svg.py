"""Writing SVG elements as text."""

from collections.abc import Sequence
from functools import cache
from xml.sax.saxutils import escape, quoteattr


def tag(name: str, *content: str, **attributes: object) -> str:
    """One element; ``content`` is already SVG, attribute names take _ for - and klass for class.

    >>> tag("line", x1=0, x2=12.5, klass="tick")
    '<line x1="0" x2="12.5" class="tick"/>'
    """
    written = "".join(
        [f" {_attribute(key)}={_quoted(value)}" for key, value in attributes.items() if value is not None]
    )
    return f"<{name}{written}>{''.join(content)}</{name}>" if content else f"<{name}{written}/>"


@cache
def _attribute(key: str) -> str:
    return "class" if key == "klass" else key.replace("_", "-")


def _quoted(value: object) -> str:
    return f'"{number(value)}"' if isinstance(value, float) else quoteattr(str(value))


def number(value: object) -> str:
    """A coordinate with at most two decimals; other values as text."""
    return f"{value:.2f}".rstrip("0").rstrip(".") if isinstance(value, float) else str(value)


def text(x: float, y: float, words: str, klass: str = "", anchor: str = "start") -> str:
    """A line of text with its baseline at y."""
    return tag("text", escape(words), x=x, y=y, klass=klass or None, text_anchor=anchor)


def drawing(width: float, height: float, title: str, parts: Sequence[str], klass: str) -> str:
    """A whole drawing that scales with the page; ``title`` says in words what it shows.

    Where parts of it are links it is a group, and no picture: within one nobody could come to them.
    """
    links = any("<a " in part for part in parts)
    return tag(
        "svg",
        tag("title", escape(title)),
        *parts,
        xmlns="http://www.w3.org/2000/svg",
        viewBox=f"0 0 {number(width)} {number(height)}",
        role="group" if links else "img",
        klass=f"drawing {klass}",
    )


def spread(wanted: Sequence[float], gap: float, lowest: float, highest: float) -> list[float]:
    """Positions as near as possible to the increasing ``wanted``, at least ``gap`` apart, within bounds.

    >>> spread([10.0, 12.0, 50.0], 10.0, 0.0, 60.0)
    [10.0, 20.0, 50.0]
    """
    placed: list[float] = []
    for want in wanted:
        placed.append(max(want, placed[-1] + gap if placed else lowest))
    limit = highest
    for i in range(len(placed) - 1, -1, -1):
        placed[i] = min(placed[i], limit)
        limit = placed[i] - gap
    return placed
