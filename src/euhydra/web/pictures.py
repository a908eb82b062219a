"""Pictures that are sent: read, turned upright, made small, and rid of all that is not picture."""

from __future__ import annotations

import datetime as dt
import io

from PIL import Image, ImageOps, UnidentifiedImageError

from euhydra.store.photos import Photo

SIDE_PX, QUALITY = 1600, 82
MOST_PIXELS = 60_000_000
FORMATS = ("JPEG", "PNG", "WEBP")
TAKEN_ON = 36867  # Exif: DateTimeOriginal


class BadPicture(ValueError):
    """The file is no picture that can be kept; the message says what is allowed."""


def photo_of(data: bytes, name: str, entry: str) -> tuple[Photo, dt.date | None]:
    """A photo to keep and the day it was taken on, where the file says.

    What a camera writes beside the picture (place, device) is left out. Raises
    :class:`BadPicture`.
    """
    try:
        with Image.open(io.BytesIO(data), formats=FORMATS) as image:
            if image.width * image.height > MOST_PIXELS:
                raise BadPicture(f"“{name[:60]}” is {image.width} × {image.height} pixels; "
                                 f"{MOST_PIXELS // 10**6} million are the most.")
            taken = _taken(image)
            upright = ImageOps.exif_transpose(image).convert("RGB")
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError,
            Image.DecompressionBombError) as error:
        if isinstance(error, BadPicture):
            raise
        raise BadPicture(f"“{name[:60]}” cannot be read as a picture. Send a JPEG, a PNG or a "
                         "WebP.") from None
    upright.thumbnail((SIDE_PX, SIDE_PX))
    out = io.BytesIO()
    upright.save(out, "JPEG", quality=QUALITY, optimize=True)
    return Photo(entry, out.getvalue(), upright.width, upright.height), taken


def _taken(image: Image.Image) -> dt.date | None:
    said = str(image.getexif().get_ifd(0x8769).get(TAKEN_ON, ""))
    try:
        return dt.datetime.strptime(said[:10], "%Y:%m:%d").date()
    except ValueError:
        return None
