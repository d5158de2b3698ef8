"""What a text pours, for tests of the order of things."""

from firkin.core.recipe import read_recipe


def poured(text: str) -> list[str]:
    """The materials as they go in, each as often as it does."""
    recipe = read_recipe(text, "metric")
    return [recipe.lines[line].material.id for act in recipe.plan for line in act.lines]
