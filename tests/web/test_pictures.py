"""Pictures in any state of decay: kept, or refused in words."""

import datetime as dt
import io

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image
from PIL.PngImagePlugin import PngInfo

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


def test_what_programs_write_beside_a_picture_is_left_out():
    picture = Image.new("RGB", (40, 30), "green")
    for kind, more in (("JPEG", {"comment": b"secret place"}), ("PNG", {"pnginfo": _texts()})):
        out = io.BytesIO()
        picture.save(out, kind, dpi=(71, 71), icc_profile=b"secret device" * 20, **more)
        assert b"secret" in out.getvalue()
        kept = photo_of(out.getvalue(), "a", "entry-0001")[0].jpeg
        assert b"secret" not in kept
        assert set(Image.open(io.BytesIO(kept)).info) <= {"jfif", "jfif_version", "jfif_unit",
                                                          "jfif_density"}


def _texts():
    texts = PngInfo()
    texts.add_text("Comment", "secret place")
    return texts


def test_a_large_jpeg_is_reduced_while_it_is_decoded_and_a_large_png_refused():
    large = Image.new("RGB", (6400, 4800), "white")
    out = io.BytesIO()
    large.save(out, "JPEG")
    photo, _ = photo_of(out.getvalue(), "a", "entry-0001")
    assert (photo.width, photo.height) == (1600, 1200)
    out = io.BytesIO()
    large.save(out, "PNG")
    with pytest.raises(BadPicture, match="6400 × 4800 pixels; 24 million are the most"):
        photo_of(out.getvalue(), "a", "entry-0001")


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
