"""What Firkin knows by name: materials with their roles, limits and cautions, families of products, rule lines and the
verdicts against them, cautions. One entry in a TOML file of this room adds one. Imports measures and densities; formula
and every room above it may import it.
"""

from firkin.core.catalogue.cautions import Caution, cautions
from firkin.core.catalogue.families import TOPS, USUAL_HEADSPACE_PCT, families, family_of, suits
from firkin.core.catalogue.materials import Material, find, materials, names_of_materials
from firkin.core.catalogue.rule_lines import (
    MEETS,
    ON_THE_LINE,
    SHORT,
    TOO_STRONG,
    RuleLine,
    Verdict,
    judge,
    rule_line,
    rule_lines,
)
from firkin.core.catalogue.stocks import Stock

__all__ = [
    "MEETS",
    "ON_THE_LINE",
    "SHORT",
    "TOO_STRONG",
    "TOPS",
    "USUAL_HEADSPACE_PCT",
    "Caution",
    "Material",
    "RuleLine",
    "Stock",
    "Verdict",
    "cautions",
    "families",
    "family_of",
    "find",
    "judge",
    "materials",
    "names_of_materials",
    "rule_line",
    "rule_lines",
    "suits",
]
