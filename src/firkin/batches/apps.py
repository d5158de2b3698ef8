"""The app of batches: what it hears of others."""

from importlib import import_module

from django.apps import AppConfig


class BatchesConfig(AppConfig):
    """Batches."""

    name = "firkin.batches"

    def ready(self) -> None:
        """Listen to what the shelf asks."""
        import_module("firkin.batches.dependants")
