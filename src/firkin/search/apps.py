"""The search's own start: what is stored is put into the index as it is stored."""

from django.apps import AppConfig


class SearchConfig(AppConfig):
    """Search."""

    name = "firkin.search"

    def ready(self) -> None:
        """Follow what is stored."""
        from firkin.search import index

        index.follow()
