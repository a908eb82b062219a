"""What the documents name stands where they say."""

import re
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
PAGES = [ROOT / "README.md", ROOT / "CONTRIBUTING.md", *sorted((ROOT / "docs").rglob("*.md"))]


@pytest.mark.parametrize("page", PAGES, ids=lambda p: p.name)
def test_every_file_a_document_names_is_there(page):
    text = page.read_text(encoding="utf-8")
    for link in re.findall(r"\]\((?!https?:|#)([^)#]+)\)", text):
        assert (page.parent / link).exists(), link
    for name in re.findall(r"`((?:core|web|store|exports|tests|docs)/[\w/]+\.\w+)`", text):
        homes = (ROOT, ROOT / "src/euhydra")
        assert any((home / name).exists() for home in homes), name


@pytest.mark.parametrize("target", re.findall(r"`make (\w[\w-]*)", "".join(
    page.read_text(encoding="utf-8") for page in PAGES)))
def test_every_target_a_document_names_is_there(target):
    assert re.search(rf"^{target}:", (ROOT / "Makefile").read_text(encoding="utf-8"), re.M)
