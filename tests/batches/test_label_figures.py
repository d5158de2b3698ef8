"""The label says the strength in the figures its batch has everywhere else."""

from firkin.batches.labels import label_of
from firkin.batches.models import Batch
from firkin.formulas.models import Formula
from mixes import mix


def test_the_label_says_the_strength_as_the_sheet_does(bench, workshop, maker) -> None:
    """By hand: 2 parts of 91 % to 1 of gel are 60.67 %."""
    rub = mix(("isopropanol", "2 part", "91 %"), ("aloe-gel", "1 part"), family="aloe-rub", make="1 L")
    kept = Formula.objects.keep(rub, workshop, maker)
    batch = Batch.objects.start(kept.current, kept.current.as_core(), maker)
    assert "60.67 % v/v" in bench.get(f"/formulas/{kept.pk}/").content.decode()
    assert label_of(batch, batch.progress(), None).strength == "Isopropanol 60.67 % v/v"
