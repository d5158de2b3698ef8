"""What Firkin knows by name: materials with their roles, limits and cautions, families of products, rule lines and the
verdicts against them, cautions, words of the trade. One entry in a TOML file of this room adds one. Imports measures
and densities; formula and every room above it may import it.
"""

from firkin.core.catalogue.ageing import aged, too_old
from firkin.core.catalogue.alcohol_names import alcohol_names, is_unfit
from firkin.core.catalogue.cautions import Caution, cautions
from firkin.core.catalogue.families import MADE_OF, TOPS, USUAL_HEADSPACE_PCT, Family, families, family_of, suits
from firkin.core.catalogue.hazards import (
    Danger,
    Meeting,
    dangers_in,
    harmless_phrases,
    kinds_of,
    meeting,
    must_not_meet,
)
from firkin.core.catalogue.materials import Material, danger_names, find, folded, materials, names_of_materials
from firkin.core.catalogue.rule_lines import (
    Limit,
    RuleLine,
    Standing,
    Verdict,
    judge,
    rule_line,
    rule_lines,
)
from firkin.core.catalogue.stocks import Stock
from firkin.core.catalogue.usual_shares import out_of_usual, usual_share
from firkin.core.catalogue.words import Word, word_beside, words

__all__ = [
    "MADE_OF",
    "TOPS",
    "USUAL_HEADSPACE_PCT",
    "Caution",
    "Danger",
    "Family",
    "Limit",
    "Material",
    "Meeting",
    "RuleLine",
    "Standing",
    "Stock",
    "Verdict",
    "Word",
    "aged",
    "alcohol_names",
    "cautions",
    "danger_names",
    "dangers_in",
    "families",
    "family_of",
    "find",
    "folded",
    "harmless_phrases",
    "is_unfit",
    "judge",
    "kinds_of",
    "materials",
    "meeting",
    "must_not_meet",
    "names_of_materials",
    "out_of_usual",
    "rule_line",
    "rule_lines",
    "suits",
    "too_old",
    "usual_share",
    "word_beside",
    "words",
]
