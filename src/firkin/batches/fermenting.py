"""What pages show of a ferment over its weeks."""

import uuid

from django.utils import timezone

from firkin.batches.forms import LogForm
from firkin.core.bench import Progress, fermenting
from firkin.drawings.series import reading_series


def over_the_weeks(progress: Progress, log: LogForm | None = None) -> dict[str, object]:
    """How a ferment is, its pH drawn, and the form that logs it; nothing for anything else."""
    how = fermenting(progress, timezone.now())
    if how is None:
        return {}
    form = log or LogForm(initial={"key": uuid.uuid4()}, auto_id="log_%s")
    return {"fermenting": how, "log_form": form, "ph_drawn": reading_series("pH", how.ph, how.window, how.day)}
