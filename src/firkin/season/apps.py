"""The app of the season: what it tells the calendar."""

from django.apps import AppConfig


class SeasonConfig(AppConfig):
    """The season."""

    name = "firkin.season"

    def ready(self) -> None:
        """Put what is planned into the calendar."""
        from firkin.batches import calendar
        from firkin.season.picture import planned_events

        calendar.PLANNED.append(planned_events)
