"""What was read and seen of a batch after and while it was made, from its entries."""

import io
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.core.exceptions import ValidationError
from django.utils import timezone
from PIL import Image, ImageOps, UnidentifiedImageError

from firkin.batches.making import Making
from firkin.batches.models import Batch, Entry
from firkin.core.bench import ASPECTS, Judged, drifting, in_words, judge_ph
from firkin.core.catalogue import rule_lines
from firkin.core.errors import CannotReckon
from firkin.core.measures import figures
from firkin.core.questions import true_strength

MOST_PHOTO_BYTES = 15 * 1024 * 1024
MOST_PHOTO_PIXELS = 50_000_000
PHOTO_SIDE = 1280
#: What can be read, its unit, and the range of what an instrument shows.
READINGS = {
    "ph": ("pH", "", 0.0, 14.0),
    "alcoholmeter": ("Alcoholmeter", "% v/v", 0.0, 100.0),
    "temperature": ("Temperature", "°C", -20.0, 120.0),
    "mass": ("Weight of the batch", "g", 0.1, 1_000_000.0),
}


@dataclass(frozen=True, slots=True)
class Reading:
    """One reading as shown: what, when, the number with its unit, and what it means."""

    what: str
    at: datetime
    value: float
    words: str
    meaning: str = ""
    advice: str = ""
    verdict: str = ""


def read_meaning(making: Making, data: dict[str, Any]) -> Judged | None:
    """What a reading means for its batch: in its window, the strength it stands for, what was lost."""
    what, value = data["what"], float(data["value"])
    if what == "ph":
        return judge_ph(making.formula.family, value)
    if what == "alcoholmeter":
        try:
            true, _ = true_strength(value, float(data.get("celsius", 20.0)))
        except CannotReckon as error:
            return Judged("unsure", str(error))
        active = making.result.active("ethanol")
        said = f"{figures(true, 3)} % v/v at 20 °C"
        if active is None:
            return Judged("unsure", f"{said}. The stem is for ethanol and water; there is no ethanol in this batch.")
        gap = true - active.true
        advice = "Glycerol and gels bias it: it reads a little low." if abs(gap) <= 3 else (
            "More than 3 points off what was measured out: look for a slip, or read it again at rest."
        )  # fmt: skip
        verdict = "within" if abs(gap) <= 3 else "high" if gap > 0 else "low"
        return Judged(verdict, f"{said}; computed {figures(active.true, 3)} %.", advice)
    if what == "mass":
        made = making.result.total.mass_g
        lost = made - value
        share = 100.0 * lost / made
        verdict = "within" if abs(share) <= 3 else "low" if lost > 0 else "high"
        return Judged(
            verdict, f"{figures(made)} g went in: {figures(abs(share), 2)} % {'lost' if lost >= 0 else 'more'}."
        )
    return None


def readings_of(making: Making) -> list[Reading]:
    """Every reading that stands, in order, with what it means."""
    found = []
    for entry in making.standing:
        if entry.kind != Entry.Kind.READING:
            continue
        name, unit, *_ = READINGS[entry.data["what"]]
        judged = read_meaning(making, entry.data)
        warm = f" at {figures(float(entry.data['celsius']))} °C" if "celsius" in entry.data else ""
        words = f"{figures(float(entry.data['value']))} {unit}".strip() + warm
        meaning = (judged.text, judged.advice, judged.verdict) if judged else ("", "", "")
        found.append(Reading(name, entry.at, float(entry.data["value"]), words, *meaning))
    return found


@dataclass(frozen=True, slots=True)
class Series:
    """One aspect over the days: day and level of each look, its words, and what the whole says."""

    aspect: str
    name: str
    points: tuple[tuple[float, int], ...]
    words: tuple[str, ...]
    says: str


def series_of(batch: Batch, making: Making) -> list[Series]:
    """The aspects looked at, each over the days since the batch was made."""
    begun = batch.made_at or batch.created_at
    looks: dict[str, list[tuple[float, int]]] = {}
    for entry in making.standing:
        if entry.kind == Entry.Kind.OBSERVE:
            day = (entry.at - begun).total_seconds() / 86400
            for aspect, level in entry.data.get("seen", {}).items():
                if aspect in ASPECTS:
                    looks.setdefault(aspect, []).append((round(max(0.0, day), 1), int(level)))
    return [
        Series(aspect, name, tuple(looks[aspect]), words, drifting(aspect, [level for _, level in looks[aspect]]))
        for aspect, (name, words) in ASPECTS.items()
        if aspect in looks
    ]


def worries(batch: Batch, making: Making) -> list[str]:
    """What stands against bottling a batch: a verdict it fails, the last reading out of its window, a drift."""
    said = [
        f"{rule_lines()[judged.guideline].name}: {judged.verdict.replace('-', ' ')}."
        for judged in making.result.verdicts
        if judged.verdict in ("short", "too-strong")
    ]
    last = {reading.what: reading for reading in readings_of(making)}
    said += [
        f"{reading.meaning} {reading.advice}".strip()
        for reading in last.values()
        if reading.verdict in ("low", "high") and reading.what != READINGS["mass"][0]
    ]
    drifts = [series for series in series_of(batch, making) if series.says]
    thickened = [one for one in drifts if one.aspect == "thickness" and one.points[-1][1] > one.points[0][1]]
    return said + [one.says for one in drifts if one not in thickened]  # gels thicken overnight, as they should


def seen_words(seen: dict[str, int]) -> str:
    """A look in words: "thickness: thin, colour: yellow"."""
    return ", ".join(f"{ASPECTS[aspect][0].lower()}: {in_words(aspect, level)}" for aspect, level in seen.items())


def small_photo(upload: Any) -> bytes:
    """An uploaded picture made small, upright, and without what the camera wrote into it (place, time, name).

    Raises ValidationError for what is no picture, or too large a one.
    """
    if upload.size > MOST_PHOTO_BYTES:
        raise ValidationError("That file is larger than 15 MB. Make the picture smaller first.")
    try:
        with Image.open(upload) as picture:
            if picture.width * picture.height > MOST_PHOTO_PIXELS:
                raise ValidationError("That picture has more than 50 million points. Make it smaller first.")
            upright = ImageOps.exif_transpose(picture).convert("RGB")
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        raise ValidationError("That file is no picture Firkin can read. Use a JPEG, PNG or WebP.") from None
    upright.thumbnail((PHOTO_SIDE, PHOTO_SIDE))
    bare = Image.new("RGB", upright.size)
    bare.paste(upright)
    out = io.BytesIO()
    bare.save(out, "JPEG", quality=82)
    return out.getvalue()


def day_of(batch: Batch) -> int:
    """Which day of its life a batch is in: 0 on the day it was made."""
    return (timezone.now() - (batch.made_at or batch.created_at)).days
