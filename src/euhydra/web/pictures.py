"""Pictures that are sent: read, turned upright, made small, and rid of all that is not picture."""

from __future__ import annotations

import datetime as dt
import io
import threading

from PIL import Image, ImageOps

from euhydra.store.photos import Photo

SIDE_PX, QUALITY = 1600, 82
MOST_DECODED = 24_000_000  # pixels; a larger JPEG is reduced while it is decoded
FORMATS = ("JPEG", "PNG", "WEBP")
TAKEN_ON = 36867  # Exif: DateTimeOriginal
ONE_AT_A_TIME = threading.Lock()


class BadPicture(ValueError):
    """The file is no picture that can be kept; the message says what is allowed."""


def photo_of(data: bytes, name: str, entry: str) -> tuple[Photo, dt.date | None]:
    """A photo to keep and the day it was taken on, where the file says.

    What a camera or a program writes beside the picture (place, device, comments, colour profile)
    is left out. Raises :class:`BadPicture`.
    """
    try:
        with ONE_AT_A_TIME, Image.open(io.BytesIO(data), formats=FORMATS) as image:
            large = image.size
            image.draft("RGB", (SIDE_PX, SIDE_PX))
            if image.width * image.height > MOST_DECODED:
                raise BadPicture(f"“{name[:60]}” is {large[0]} × {large[1]} pixels; "
                                 f"{MOST_DECODED // 10**6} million are the most. Make it smaller.")
            taken = _taken(image)
            upright = ImageOps.exif_transpose(image).convert("RGB")
            upright.thumbnail((SIDE_PX, SIDE_PX))
            upright.info.clear()
            out = io.BytesIO()
            upright.save(out, "JPEG", quality=QUALITY, optimize=True)
    except BadPicture:
        raise
    except Exception:
        raise BadPicture(f"“{name[:60]}” cannot be read as a picture. Send a JPEG, a PNG or a "
                         "WebP.") from None
    return Photo(entry, out.getvalue(), upright.width, upright.height), taken


def _taken(image: Image.Image) -> dt.date | None:
    said = str(image.getexif().get_ifd(0x8769).get(TAKEN_ON, ""))
    try:
        return dt.datetime.strptime(said[:10], "%Y:%m:%d").date()
    except ValueError:
        return None
