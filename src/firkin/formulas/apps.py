"""The app of formulas: what it hears of others."""

from importlib import import_module

from django.apps import AppConfig


class FormulasConfig(AppConfig):
    """Formulas."""

    name = "firkin.formulas"

    def ready(self) -> None:
        """Listen to what the shelf asks."""
        import_module("firkin.formulas.dependants")
