"""The contrast of what is written over drawings with what is painted under it, as it is seen.

The text is taken away, a picture taken of what lies there, and the one held against the other by
the formula of WCAG 2.2 (relative luminance, contrast ratio). What has a halo stands on that.
"""

from __future__ import annotations

import io

import numpy as np
from PIL import Image

LEAST, LEAST_LARGE, LARGE_PX = 4.5, 3.0, 24.0
HIDE = """hidden => {
  const sheet = new CSSStyleSheet()
  sheet.replaceSync('#page svg.drawing text, #page .plot text { visibility: hidden !important; }')
  document.adoptedStyleSheets = hidden ? [sheet] : []
}"""
TEXTS = """() => [...document.querySelectorAll('#page svg.drawing text, #page .plot text')]
  .filter((t) => t.textContent.trim() && t.checkVisibility({ checkVisibilityCSS: true }) &&
    !t.closest('[inert]') && !t.closest('clipPath'))
  .map((t) => {
    const look = getComputedStyle(t), box = t.getBoundingClientRect()
    const halo = look.paintOrder.startsWith('stroke') || look.strokeWidth.startsWith('4') ||
      look.strokeWidth.startsWith('3')
    return { words: t.textContent.trim(), ink: look.fill,
      halo: halo && look.stroke !== 'none' ? look.stroke : null,
      size: parseFloat(look.fontSize) * (t.getScreenCTM()?.a ?? 1),
      box: [box.left + scrollX, box.top + scrollY, box.right + scrollX, box.bottom + scrollY] }
  })"""


def faint(page) -> list[str]:
    """What is written with less contrast than can be read, on the page as it stands."""
    texts = page.evaluate(TEXTS)
    if not texts:
        return []
    page.evaluate(HIDE, True)
    picture = np.asarray(Image.open(io.BytesIO(page.screenshot(full_page=True))).convert("RGB"))
    page.evaluate(HIDE, False)
    return [f"{text['words']}: {found:.2f}" for text in texts
            if (found := _contrast(text, picture)) < (
                LEAST_LARGE if text["size"] >= LARGE_PX else LEAST) - 0.01]


def _contrast(text, picture) -> float:
    """The contrast of the ink with the worst of what lies under it, outliers apart."""
    ink = _luminance(np.array([_rgb(text["ink"])]))[0]
    if text["halo"]:
        under = _luminance(np.array([_rgb(text["halo"])]))
    else:
        left, top, right, bottom = (max(round(x), 0) for x in text["box"])
        part = picture[top:bottom, left:right].reshape(-1, 3)
        if not len(part):
            return 21.0
        under = _luminance(part)
    ratios = (np.maximum(under, ink) + 0.05) / (np.minimum(under, ink) + 0.05)
    return float(np.quantile(ratios, 0.2))


def _rgb(colour: str) -> list[float]:
    return [float(x) for x in colour.removeprefix("rgba(").removeprefix("rgb(").rstrip(")").split(
        ",")[:3]]


def _luminance(rgb: np.ndarray) -> np.ndarray:
    c = np.asarray(rgb, dtype=float) / 255
    linear = np.where(c <= 0.04045, c / 12.92, ((c + 0.055) / 1.055) ** 2.4)
    return linear @ np.array([0.2126, 0.7152, 0.0722])
