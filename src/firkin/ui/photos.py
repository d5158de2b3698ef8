"""Pictures, made small and bare before they are kept; and the bar code on one."""

import io
from typing import Any

import zxingcpp
from django.core.exceptions import ValidationError
from django.http import HttpResponse
from pi_heif import register_heif_opener
from PIL import Image, ImageOps

register_heif_opener(thumbnails=False)  # what telephones write
MOST_PHOTO_BYTES = 15 * 1024 * 1024
MOST_PHOTO_PIXELS = 50_000_000
#: What cannot be read at a smaller size is taken whole into memory, so less of it.
MOST_WHOLE_PIXELS = 25_000_000
_FORMATS = ("JPEG", "PNG", "WEBP", "HEIF")
PHOTO_SIDE = 1280
#: A longer code is no number of a product.
MOST_CODE = 40


def small_photo(upload: Any) -> bytes:
    """An uploaded picture made small, upright, and without what the camera wrote into it (place, time, name).

    Raises ValidationError for what is no picture, or too large a one.
    """
    if upload.size > MOST_PHOTO_BYTES:
        raise ValidationError("That file is larger than 15 MB. Make the picture smaller first.")
    return bare_jpeg(upload)


def bare_jpeg(stream: Any) -> bytes:
    """A picture made anew from its points alone: a small JPEG, upright, without place, time, name or colour profile.

    Raises ValidationError for what is no picture, or too large a one.
    """
    try:
        with Image.open(stream, formats=_FORMATS) as picture:
            most = MOST_PHOTO_PIXELS if picture.format == "JPEG" else MOST_WHOLE_PIXELS
            if picture.width * picture.height > most:
                raise ValidationError(
                    f"That picture has more than {most // 1_000_000} million points. Make it smaller."
                )
            picture.draft("RGB", (PHOTO_SIDE, PHOTO_SIDE))
            picture.thumbnail((PHOTO_SIDE, PHOTO_SIDE))
            upright = ImageOps.exif_transpose(picture).convert("RGB")
    except ValidationError:
        raise
    except Exception:
        raise ValidationError("That file is no picture Firkin can read. Use a JPEG, PNG, WebP or HEIC.") from None
    upright.thumbnail((PHOTO_SIDE, PHOTO_SIDE))
    bare = Image.new("RGB", upright.size)
    bare.paste(upright)
    out = io.BytesIO()
    bare.save(out, "JPEG", quality=82)
    return out.getvalue()


def as_picture(jpeg: bytes) -> HttpResponse:
    """A kept picture as the answer to a request: shown, and taken for nothing but a picture."""
    response = HttpResponse(jpeg, content_type="image/jpeg")
    response["Content-Disposition"] = "inline"
    response["X-Content-Type-Options"] = "nosniff"
    return response


def bar_code(jpeg: bytes) -> str:
    """What is printed as a bar code on a picture that was made small, such as a product's number; empty without one."""
    with Image.open(io.BytesIO(jpeg), formats=("JPEG",)) as picture:
        found = zxingcpp.read_barcodes(picture.convert("L"))
    return next((one.text[:MOST_CODE] for one in found if one.text), "")
