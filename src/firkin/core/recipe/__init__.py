"""A recipe's text, as heard or pasted, read into lines, claims and what was not understood. Imports audit and what lies
below it; bench may import it.
"""

from firkin.core.recipe.figures import measures
from firkin.core.recipe.reader import read_recipe
from firkin.core.recipe.recipe import Recipe

__all__ = [
    "Recipe",
    "measures",
    "read_recipe",
]
