"""Pictures in any state of decay: kept, or refused in words."""

import datetime as dt
import io

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image

from euhydra.web.pictures import SIDE_PX, BadPicture, photo_of


def sample(kind):
    exif = Image.Exif()
    exif[274] = 3
    exif.get_ifd(0x8769)[36867] = "2026:05:06 07:08:09"
    out = io.BytesIO()
    Image.effect_mandelbrot((64, 48), (-2, -1, 1, 1), 30).convert("RGB").save(out, kind, exif=exif)
    return out.getvalue()


SAMPLES = {kind: sample(kind) for kind in ("JPEG", "PNG", "WEBP")}


@pytest.mark.parametrize("kind", SAMPLES)
def test_each_kind_is_kept_as_a_jpeg_with_its_day(kind):
    photo, taken = photo_of(SAMPLES[kind], "a", "entry-0001")
    kept = Image.open(io.BytesIO(photo.jpeg))
    assert (kept.format, kept.size, taken) == ("JPEG", (64, 48), dt.date(2026, 5, 6))
    assert (photo.width, photo.height) == kept.size
    assert max(kept.size) <= SIDE_PX
    assert not kept.getexif()


def kept_or_refused(data):
    """The photo, or why it is none."""
    try:
        return photo_of(data, "a picture.jpg", "entry-0001")[0]
    except BadPicture as error:
        return str(error)


@settings(max_examples=150)
@given(st.sampled_from(sorted(SAMPLES)), st.lists(
    st.tuples(st.integers(0, 4000), st.integers(0, 255)), min_size=1, max_size=12),
    st.integers(20, 4000))
def test_bytes_spoilt_anywhere_are_read_or_refused(kind, spoilt, cut):
    data = bytearray(SAMPLES[kind])
    for at, value in spoilt:
        data[at % len(data)] = value
    said = kept_or_refused(bytes(data[:cut]))
    if isinstance(said, str):
        assert "a picture.jpg" in said
    else:
        assert Image.open(io.BytesIO(said.jpeg)).format == "JPEG"


@settings(max_examples=150)
@given(st.lists(st.tuples(st.integers(0, 200), st.integers(0, 255)), min_size=1, max_size=6))
def test_what_a_camera_wrote_beside_it_may_be_nonsense(spoilt):
    data = bytearray(SAMPLES["JPEG"])
    start = data.index(b"Exif")
    for at, value in spoilt:
        data[start + at % 120] = value
    assert kept_or_refused(bytes(data))
