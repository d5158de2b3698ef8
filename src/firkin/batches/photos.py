"""Pictures of a batch, made small and bare before they are kept."""

import io
from typing import Any

from django.core.exceptions import ValidationError
from PIL import Image, ImageOps, UnidentifiedImageError

MOST_PHOTO_BYTES = 15 * 1024 * 1024
MOST_PHOTO_PIXELS = 50_000_000
PHOTO_SIDE = 1280


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
