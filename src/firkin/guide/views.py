"""The guide."""

from django.http import HttpResponse
from django.shortcuts import render

from firkin.accounts.middleware import MakerRequest
from firkin.core.catalogue import cautions, rule_lines
from firkin.core.densities import ALCOHOLS
from firkin.core.questions import Window
from firkin.drawings.rail import strength_rail


def guide(request: MakerRequest) -> HttpResponse:
    """Rule lines, what they ask and who says so; cautions; where the densities come from."""
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
    return render(
        request,
        "guide/guide.html",
        {
            "rules": rule_lines().values(),
            "rails": rails,
            "cautions": cautions().values(),
            "alcohols": ALCOHOLS.values(),
        },
    )
