"""Pictures that are sent: read, turned upright, made small, and rid of all that is not picture."""

from __future__ import annotations

import datetime as dt
import io
import threading

from PIL import Image, ImageOps

from euhydra.core.editing.file import BadFile, sketch_in, weather_in
from euhydra.core.garden.sketch import LARGEST_PX
from euhydra.store.photos import Photo
from euhydra.store.riding import Riding
from euhydra.store.sketches import Picture

SIDE_PX, QUALITY = LARGEST_PX, 82
MOST_DECODED = 24_000_000  # pixels; a larger JPEG is reduced while it is decoded
FORMATS = ("JPEG", "PNG", "WEBP")
TAKEN_ON = 36867  # Exif: DateTimeOriginal
ONE_AT_A_TIME = threading.Lock()


class BadPicture(ValueError):
    """The file is no picture that can be kept; the message says what is allowed."""


def sketch_of(data: bytes, name: str) -> Picture:
    """A picture to lie under a plan; one that was kept as such before stays as it is.

    Raises :class:`BadPicture`.
    """
    photo, _ = photo_of(data, name, "")
    made = Picture(photo.jpeg, photo.width, photo.height)
    return Picture(data, made.width, made.height) if _bare(data, made) else made


def riding_in(text: str) -> Riding:
    """What rides along in a garden's file. Raises :class:`~euhydra.core.editing.file.BadFile`."""
    body = sketch_in(text)
    try:
        picture = sketch_of(body, "the picture in it") if body else None
    except BadPicture as error:
        raise BadFile(str(error)) from None
    return Riding(weather_in(text), picture)


def _bare(data: bytes, made: Picture) -> bool:
    """Whether a file is a JPEG of that size with nothing beside the picture."""
    with Image.open(io.BytesIO(data), formats=FORMATS) as image:
        return (image.format == "JPEG" and image.size == (made.width, made.height)
                and image.mode == "RGB" and not set(image.info) - {
                    "jfif", "jfif_version", "jfif_unit", "jfif_density"})


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
