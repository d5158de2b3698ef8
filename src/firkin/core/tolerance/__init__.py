"""How sure a strength is: from the tools chosen, the range of each stock and the table's own doubt, the distribution of
what a batch comes to, which line's error matters most, and the change that helps most. Arrays (NumPy) in place of
numbers, so the room is imported only where it is used: the text commands and the site ask for it when they need it.
Rehearsal imports it too.
"""

from firkin.core.tolerance.answer import better_tools, measures_said, tolerance
from firkin.core.tolerance.caustic import SpareCaustic, how_neutral
from firkin.core.tolerance.errors import Measure, measure_of
from firkin.core.tolerance.spread import Ranked
from firkin.core.tolerance.tolerance import DRAWS, Change, Sureness, asked_of, changes_tried, how_sure

__all__ = [
    "DRAWS",
    "Change",
    "Measure",
    "Ranked",
    "SpareCaustic",
    "Sureness",
    "asked_of",
    "better_tools",
    "changes_tried",
    "how_neutral",
    "how_sure",
    "measure_of",
    "measures_said",
    "tolerance",
]
