"""What the tests of batches share."""

import pytest

from firkin.batches.models import Batch
from firkin.core.house import house_formulas
from steps import begin


@pytest.fixture
def gel(workshop, maker) -> Batch:
    """A xanthan gel being made, its alcohol in ten additions."""
    return begin(house_formulas()["xanthan-gel"].formula, workshop, maker, "1 L")
