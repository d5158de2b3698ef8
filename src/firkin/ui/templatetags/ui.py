"""Template tags every page uses: icons, numbers with units, strengths."""

import re
from collections.abc import Sequence
from datetime import date, datetime
from functools import cache
from typing import Any
from uuid import uuid4

from django import template
from django.contrib.staticfiles import finders
from django.utils import timezone
from django.utils.dateformat import format as date_format
from django.utils.html import format_html
from django.utils.safestring import SafeString, mark_safe
from django.utils.text import slugify

from firkin.core import catalogue
from firkin.core.audit import Finding
from firkin.core.catalogue import rule_lines, word_beside
from firkin.core.formula import Reckoning, work_reckoning
from firkin.core.measures import Strength, amount_words, hours_words, weight_words
from firkin.core.measures import figures as core_figures
from firkin.core.texts import uncapped
from firkin.core.use import Rate
from firkin.core.use import rate_words as core_rate_words
from firkin.ui import rows
from firkin.ui.drawn_alone import as_file, menu
from firkin.ui.guide_links import guide_place
from firkin.ui.sureness import sure_as_said

register = template.Library()

#: Ends of a range nearer than this, in points, are one figure.
_SAME = 0.005

#: Verdicts by word, shape and colour: never by colour alone.
VERDICT_WORDS = {
    "meets": ("meets", "●"),
    "on-the-line": ("on the line", "◐"),
    "short": ("short", "▼"),
    "too-strong": ("too strong", "▲"),
}


@cache
def _icon(name: str) -> str:
    path = finders.find(f"vendor/icons/{name}.svg")
    if path is None:
        raise template.TemplateSyntaxError(f"There is no icon {name}.")
    with open(str(path), encoding="utf-8") as file:
        return file.read().replace("<svg ", '<svg class="icon" aria-hidden="true" ', 1)


@register.simple_tag
def press_key() -> SafeString:
    """The key of a form that is pressed once."""
    return format_html('<input type="hidden" name="press" value="{}">', uuid4())


@register.simple_tag
def icon(name: str) -> SafeString:
    """One of the vendored icons, inline, in the colour of the text."""
    return mark_safe(_icon(name))  # noqa: S308  our own file


@register.simple_tag
def fix_key(finding: Finding, result: Reckoning | str) -> str:
    """What the button of a fix posts."""
    return rows.fix_key(finding, result if isinstance(result, Reckoning) else None)


@register.simple_tag(takes_context=True)
def drawing(context: template.Context, svg: str, name: str | int) -> SafeString:
    """A drawing, noted for the page's menu of files wherever the page can be asked for again by its address.

    The name is the drawing's own on its page, and its file's address ends with it.
    """
    request = context.get("request")
    if request is not None and request.method == "GET" and svg:
        as_file(request, svg, slugify(str(name)))
    return drawn(svg)


@register.simple_tag(takes_context=True)
def drawings_menu(context: template.Context) -> SafeString:
    """The menu of this page's drawings as files, at the end of the page, when all of them were drawn."""
    request = context.get("request")
    return mark_safe(menu(request) if request is not None else "")  # noqa: S308  a template of our own


@register.inclusion_tag("ui/beside.html")
def help_beside(label: str) -> dict[str, Any]:
    """The word of the trade a field is about, folded up beside its label; nothing where the label speaks for itself."""
    return {"label": label, "word": word_beside(str(label))}


@register.filter
def drawn(svg: str) -> SafeString:
    """A drawing made by firkin.drawings, which escapes every text it is given."""
    return mark_safe(svg)  # noqa: S308


@register.filter
def heard(severity: str) -> str:
    """The word on a page for how grave a finding is."""
    return {"ask": "question", "warn": "warning"}.get(str(severity), str(severity))


register.filter("guide_place", guide_place)
register.filter("uncapped", uncapped)


@register.filter
def figures(value: float | None, digits: int = 4) -> str:
    """A number with at most four significant figures."""
    return "—" if value is None else core_figures(float(value), digits)


#: What begins a mark in Markdown.
_MARKS = re.compile(r"([\\`*_{}\[\]<>#|])")


@register.filter
def plain(text: str) -> str:
    """A text as it stands, for Markdown: on one line, and nothing in it is a mark."""
    return _MARKS.sub(r"\\\1", " ".join(str(text).split()))


#: Less than this is nothing: half of what the shortest figure shows.
LEAST_MONEY = 0.0005


@register.filter
def money(value: float | None) -> str:
    """An amount of money, to the cent; less than ten cents to a tenth of one."""
    if value is None:
        return "—"
    if 0.0 < abs(value) < LEAST_MONEY:
        return "0"
    return f"{value:.3f}" if 0.0 < abs(value) < 0.1 else f"{value:.2f}"


@register.filter
def on(moment: datetime | date | None, form: str) -> str:
    """A day or an hour in Django's form, with the year behind the month where it is not this year.

    >>> on(date(1999, 11, 24), "j M")
    '24 Nov 1999'
    """
    if moment is None:
        return ""
    local = timezone.localtime(moment) if isinstance(moment, datetime) else moment
    other = local.year != timezone.localdate().year
    return date_format(local, re.sub(r"[MF](?! Y)", r"\g<0> Y", form, count=1) if other else form)


@register.filter
def volume(millilitres: float | None) -> str:
    """A volume in mL, or L from one litre."""
    return "—" if millilitres is None else amount_words(float(millilitres))


@register.filter
def weight(grams: float | None) -> str:
    """A weight in g, or kg from one kilogram."""
    return "—" if grams is None else weight_words(float(grams))


@register.filter
def strength(value: Strength | None) -> str:
    """A strength with its basis; a range by its ends."""
    return "" if value is None else str(value)


@register.filter
def material_name(key: str) -> str:
    """The name of a material by its id; a material of the maker's own keeps its name."""
    return catalogue.find(key).name


@register.filter
def told_apart(key: str) -> str:
    """A sentence for what a material is mistaken for; empty without one."""
    return catalogue.find(key).told_apart


@register.filter
def rule_name(key: str) -> str:
    """The name of a rule line."""
    return rule_lines()[key].name


@register.filter
def rule_source(key: str) -> str:
    """Where a rule line was published."""
    return rule_lines()[key].source


@register.filter
def verdict_word(key: str) -> str:
    """A verdict by its word."""
    return VERDICT_WORDS[key][0] if key in VERDICT_WORDS else ""


@register.filter
def hours(value: float) -> str:
    """A wait in words."""
    return hours_words(value)


@register.inclusion_tag("ui/line_marks.html")
def line_marks(findings: Sequence[Finding], line: int) -> dict[str, list[tuple[str, int, int]]]:
    """What the findings say of one line: each severity, how often, and the place of the first."""
    places: dict[str, list[int]] = {}
    for place, finding in enumerate(findings):
        if line in finding.lines:
            places.setdefault(finding.severity, []).append(place)
    return {"marks": [(severity, len(found), found[0]) for severity, found in places.items()]}


@register.inclusion_tag("ui/verdict.html")
def verdict(key: str) -> dict[str, str]:
    """A verdict by word and shape."""
    word, shape = VERDICT_WORDS[key]
    return {"key": key, "word": word, "shape": shape}


@register.inclusion_tag("ui/why.html")
def why(result: Reckoning) -> dict[str, object]:
    """Why a strength or a verdict is what it is: its arithmetic, who says so, and how sure it is, in one place."""
    return {
        "alcohols": [active for active in result.actives if active.is_alcohol],
        "working": work_reckoning(result),
        "rules": list(dict.fromkeys(standing.guideline for standing in result.verdicts)),
        "sure": sure_as_said(result.formula),
        "ranged": [active for active in result.actives if active.high - active.low > _SAME],
    }


@register.filter
def rate_words(rate: Rate) -> str:
    """How fast something is used: "0.9 to 1.3 L a week"."""
    return core_rate_words(rate)
