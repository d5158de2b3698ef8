"""A formula and what comes of it: lines worked out to grams, the volume after mixing, strengths and verdicts, the
arithmetic in words, its open format, changes, scaling, substitutes, and the house formulas. Imports measures, densities
and catalogue; questions and every room above it may import it.
"""

from firkin.core.formula.actives import Active, Counted, counted_actives, measured_out
from firkin.core.formula.bulk import with_bulk
from firkin.core.formula.changes import (
    added,
    moved,
    reordered,
    scaled_lines,
    swapped,
    with_line,
    with_mass,
    without,
    without_lines,
)
from firkin.core.formula.claims import UNCLAIMED, UNCLAIMED_LINE, Claims, LineClaims
from firkin.core.formula.format import (
    FORMULA_FORMAT,
    FORMULA_FORMAT_NOW,
    dose_words,
    formula_from_dict,
    formula_to_dict,
    read_dose,
    shares_of,
    steps_from_list,
    steps_to_list,
)
from firkin.core.formula.formula import (
    PERCENT_SLACK,
    SEVERAL,
    Claim,
    Formula,
    Line,
    Step,
    claim_for,
    percent_total,
    work_out,
)
from firkin.core.formula.house import HouseFormula, house_formulas
from firkin.core.formula.mixture import Nature, Pot, nature
from firkin.core.formula.parts import by_parts
from firkin.core.formula.reckoning import Reckoning, levels, read_ounces, reckon
from firkin.core.formula.scaling import WAYS, enough, falls_short, overflows, scale
from firkin.core.formula.substitutes import Substitute, as_much_from, substitute, substitutes, with_bottles
from firkin.core.formula.usual_steps import (
    as_ferment,
    ferments,
    pour_order,
    pour_text,
    quarantined,
    steps_of,
    tops_last,
    vessel_order,
    with_steps,
)
from firkin.core.formula.worked import percent_words, work_reckoning

__all__ = [
    "FORMULA_FORMAT",
    "FORMULA_FORMAT_NOW",
    "PERCENT_SLACK",
    "SEVERAL",
    "UNCLAIMED",
    "UNCLAIMED_LINE",
    "WAYS",
    "Active",
    "Claim",
    "Claims",
    "Counted",
    "Formula",
    "HouseFormula",
    "Line",
    "LineClaims",
    "Nature",
    "Pot",
    "Reckoning",
    "Step",
    "Substitute",
    "added",
    "as_ferment",
    "as_much_from",
    "by_parts",
    "claim_for",
    "counted_actives",
    "dose_words",
    "enough",
    "falls_short",
    "ferments",
    "formula_from_dict",
    "formula_to_dict",
    "house_formulas",
    "levels",
    "measured_out",
    "moved",
    "nature",
    "overflows",
    "percent_total",
    "percent_words",
    "pour_order",
    "pour_text",
    "quarantined",
    "read_dose",
    "read_ounces",
    "reckon",
    "reordered",
    "scale",
    "scaled_lines",
    "shares_of",
    "steps_from_list",
    "steps_of",
    "steps_to_list",
    "substitute",
    "substitutes",
    "swapped",
    "tops_last",
    "vessel_order",
    "with_bottles",
    "with_bulk",
    "with_line",
    "with_mass",
    "with_steps",
    "without",
    "without_lines",
    "work_out",
    "work_reckoning",
]
