"""How a thing is made: acts in order, each with what it needs, read from a recipe's prose. Imports formula and what lies
below it; recipe and bench may import it.
"""

from firkin.core.plan.acts import DOES, Act, faults_of, without_line
from firkin.core.plan.clauses import clauses_of, told_of
from firkin.core.plan.mentions import Ingredient
from firkin.core.plan.reading import read_acts

__all__ = ["DOES", "Act", "Ingredient", "clauses_of", "faults_of", "read_acts", "told_of", "without_line"]
