"""What people write and measure with: numbers, quantities with their units, strengths with their basis, waits, the
error of a tool, and a line of worked arithmetic. It knows no material. Imports only the errors and data files of core;
every other room may import it.
"""

from firkin.core.measures.maker_units import MakerUnit, maker_sizes, maker_unit, maker_units, size_of
from firkin.core.measures.numerals import (
    LARGEST,
    NUMBER,
    decimal_mark,
    doubt_points,
    figures,
    plain_figures,
    read_number,
    rounded,
    rounded_down,
    rounded_up,
)
from firkin.core.measures.quantities import (
    FILLED,
    QS,
    Quantity,
    names_of_units,
    read_heat,
    read_quantity,
    read_temperature,
    read_unit,
    read_volume,
    read_volume_or_mass,
    spellings,
    units,
)
from firkin.core.measures.strengths import BASES, UK_PROOF_PER_PCT, US_PROOF_PER_PCT, Side, Strength, read_strength
from firkin.core.measures.tools import Tool, error_words, read_error, tools, usual_tool
from firkin.core.measures.waits import QUARANTINE_H, WAIT_KINDS, hours_words, read_hours, wait_kind
from firkin.core.measures.working import Working, WorkLine, amount_words, weight_words

__all__ = [
    "BASES",
    "FILLED",
    "LARGEST",
    "NUMBER",
    "QS",
    "QUARANTINE_H",
    "UK_PROOF_PER_PCT",
    "US_PROOF_PER_PCT",
    "WAIT_KINDS",
    "MakerUnit",
    "Quantity",
    "Side",
    "Strength",
    "Tool",
    "WorkLine",
    "Working",
    "amount_words",
    "decimal_mark",
    "doubt_points",
    "error_words",
    "figures",
    "hours_words",
    "maker_sizes",
    "maker_unit",
    "maker_units",
    "names_of_units",
    "plain_figures",
    "read_error",
    "read_heat",
    "read_hours",
    "read_number",
    "read_quantity",
    "read_strength",
    "read_temperature",
    "read_unit",
    "read_volume",
    "read_volume_or_mass",
    "rounded",
    "rounded_down",
    "rounded_up",
    "size_of",
    "spellings",
    "tools",
    "units",
    "usual_tool",
    "wait_kind",
    "weight_words",
]
