"""How a thing is made: acts in order, each with what it needs, read from a recipe's prose.
Imports formula and what lies below it; recipe and bench may import it.
"""

from firkin.core.plan.acts import (
    DOES,
    Act,
    act_of,
    acts_of,
    cups_astray,
    faults_of,
    handed_on,
    in_additions,
    with_every_line,
    without_line,
)
from firkin.core.plan.clauses import clauses_of, told_of
from firkin.core.plan.format import acts_from_list, acts_to_list
from firkin.core.plan.manners import portion_words
from firkin.core.plan.mentions import Ingredient
from firkin.core.plan.numbers import number_of
from firkin.core.plan.otherwise import Otherwise, otherwise
from firkin.core.plan.parting import can_split, in_parts, joined, part_words, renamed, split
from firkin.core.plan.reading import read_acts

__all__ = [
    "DOES",
    "Act",
    "Ingredient",
    "Otherwise",
    "act_of",
    "acts_from_list",
    "acts_of",
    "acts_to_list",
    "can_split",
    "clauses_of",
    "cups_astray",
    "faults_of",
    "handed_on",
    "in_additions",
    "in_parts",
    "joined",
    "number_of",
    "otherwise",
    "part_words",
    "portion_words",
    "read_acts",
    "renamed",
    "split",
    "told_of",
    "with_every_line",
    "without_line",
]
