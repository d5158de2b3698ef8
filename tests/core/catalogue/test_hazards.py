"""Dangers as they are heard in a text."""

import pytest

from firkin.core.catalogue import find
from firkin.core.catalogue.hazards import dangers_in


@pytest.mark.parametrize("said", ["methylated spirits", "Denatured Alcohol", "meths", "white spirit"])
def test_alcohol_that_is_not_for_skin_is_heard_under_its_own_name(said: str) -> None:
    (heard,) = dangers_in(f"a cup of {said}")
    assert (heard.said, heard.material.name.lower()) == (said, find(said).name.lower())
    assert heard.material.known == find(said).known
