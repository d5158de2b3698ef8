"""The guide: how to start, families, rules, what must not meet, materials, troubles, words."""

from django.http import Http404, HttpResponse
from django.shortcuts import render

from firkin.accounts.middleware import MakerRequest
from firkin.core import audit, catalogue
from firkin.core.catalogue import Material, families, find, rule_lines
from firkin.core.densities import ALCOHOLS
from firkin.core.formula import house_formulas
from firkin.core.mending import TROUBLES
from firkin.core.questions import Window
from firkin.core.recipe import read_recipe
from firkin.drawings.rail import strength_rail
from firkin.guide import contents

#: So much of a name that is asked for is shown again.
_LONGEST_NAME = 60


def guide(request: MakerRequest) -> HttpResponse:
    """The way in: how to start, and a door to each part."""
    return render(request, "guide/guide.html", {"families": [one for one in families().values() if one.id != "other"]})


def start(request: MakerRequest) -> HttpResponse:
    """How to start: what one needs, and how a first batch goes."""
    return render(request, "guide/start.html")


def family(request: MakerRequest, key: str) -> HttpResponse:
    """A family: what it is for, how strong, how long it keeps, what goes wrong with it."""
    if key not in families():
        raise Http404("There is no such family.")
    one = families()[key]
    lines = [rule_lines()[line] for line in dict.fromkeys([*one.lines, *dict(one.line_by_active).values()])]
    return render(
        request,
        "guide/family.html",
        {
            "family": one,
            "lines": lines,
            "houses": [house for house in house_formulas().values() if house.formula.family == key],
            "troubles": [(trouble, TROUBLES[trouble]) for trouble in one.troubles],
            "cautions": [catalogue.cautions()[caution] for caution in one.cautions],
        },
    )


def rules(request: MakerRequest) -> HttpResponse:
    """The rules a product can be checked against, who says so, and what the verdicts mean."""
    rails = {
        name: strength_rail(
            [
                Window(rule.short, limit.minimum, limit.maximum)
                for rule in rule_lines().values()
                if (limit := rule.limit_for(active))
            ],
            [],
        )
        for active, name in (("ethanol", "Ethanol"), ("isopropanol", "Isopropanol"))
    }
    told = {"rules": rule_lines().values(), "rails": rails, "alcohols": ALCOHOLS.values()}
    return render(request, "guide/rules.html", told)


def together(request: MakerRequest) -> HttpResponse:
    """Any two materials: may they meet? And the chart of those that people have at home."""
    names = [request.GET.get(key, "").strip()[:_LONGEST_NAME] for key in ("one", "with")]
    answer = None
    if all(names):
        one, other = (_meant(name) for name in names)
        answer = {
            "one": one,
            "other": other,
            "same": one.written == other.written,
            "findings": audit.together(one, other),
            "unknown": [name for name, material in zip(names, (one, other), strict=True) if not material.known],
        }
    return render(
        request,
        "guide/together.html",
        {"one": names[0], "other": names[1], "answer": answer, "chart": contents.chart(), "names": contents.names()},
    )


def _meant(name: str) -> Material:
    """The material a name means: as the shelf finds it, else as the reader of recipes takes it, "soap" or "meths"."""
    found = find(name)
    if found.known:
        return found
    lines = read_recipe(f"100 ml {name}").lines
    return lines[0].material if len(lines) == 1 and lines[0].material.known else found


def materials(request: MakerRequest) -> HttpResponse:
    """Every material, in its drawer."""
    return render(request, "guide/materials.html", {"drawers": contents.drawers()})


def material(request: MakerRequest, key: str) -> HttpResponse:
    """One material: how strong, how dense, what it does not go with, and what can stand in for it."""
    if key not in catalogue.materials():
        raise Http404("There is no such material.")
    return render(request, "guide/material.html", {"told": contents.told(catalogue.materials()[key])})


def troubles(request: MakerRequest) -> HttpResponse:
    """What goes wrong, by what one sees, and what helps."""
    return render(request, "guide/troubles.html", {"troubles": contents.troubles()})


def hands(request: MakerRequest) -> HttpResponse:
    """When to wash and when to rub."""
    return render(request, "guide/hands.html")


def cautions(request: MakerRequest) -> HttpResponse:
    """Every caution with its source."""
    return render(request, "guide/cautions.html", {"cautions": catalogue.cautions().values()})


def words(request: MakerRequest) -> HttpResponse:
    """The words of the trade."""
    return render(request, "guide/words.html", {"words": contents.words()})


def keys(request: MakerRequest) -> HttpResponse:
    """The keys that save a way."""
    return render(request, "guide/keys.html")
