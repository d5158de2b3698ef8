"""What the tests of batches share."""

import pytest

from firkin.batches.models import Batch
from mixes import GEL
from steps import begin


@pytest.fixture
def gel(workshop, maker) -> Batch:
    """A xanthan gel being made, its alcohol in ten additions."""
    return begin(GEL, workshop, maker, "1 L")
