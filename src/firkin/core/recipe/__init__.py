"""A recipe's text, as heard or pasted, read into lines, claims, steps and what was not understood, each with its place
in the text. Imports audit and what lies below it; bench may import it.
"""

from firkin.core.recipe.captions import NOTHING
from firkin.core.recipe.check import AMOUNTS_RIGHT, findings_of
from firkin.core.recipe.doubts import COUNTED_LIKE, as_counted, is_sure, second_reading
from firkin.core.recipe.household import in_household, measures
from firkin.core.recipe.labels import Label, read_label
from firkin.core.recipe.pasted import as_written
from firkin.core.recipe.reader import read_recipe
from firkin.core.recipe.recipe import Aside, HeardDanger, HeardLine, Mark, MarkKind, Recipe

__all__ = [
    "AMOUNTS_RIGHT",
    "COUNTED_LIKE",
    "NOTHING",
    "Aside",
    "HeardDanger",
    "HeardLine",
    "Label",
    "Mark",
    "MarkKind",
    "Recipe",
    "as_counted",
    "as_written",
    "findings_of",
    "in_household",
    "is_sure",
    "measures",
    "read_label",
    "read_recipe",
    "second_reading",
]
