"""What the PDFs share: fonts, styles, a canvas that numbers its pages."""

from collections.abc import Callable
from pathlib import Path
from typing import Any, Final

import font_source_sans_pro
import font_source_serif_pro
from django.utils import timezone
from reportlab.lib.colors import HexColor
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.lib.utils import simpleSplit
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from loans.read_dates import write_day

INK, SOFT, RULE = HexColor("#12201d"), HexColor("#51605b"), HexColor("#c5cec9")
_FONTS: Final = {
    "Sans": (font_source_sans_pro, "SourceSansPro-Regular.ttf"),
    "Sans-Bold": (font_source_sans_pro, "SourceSansPro-Semibold.ttf"),
    "Serif": (font_source_serif_pro, "SourceSerifPro-Regular.ttf"),
    "Serif-Bold": (font_source_serif_pro, "SourceSerifPro-Semibold.ttf"),
}


def register() -> None:
    """The fonts made known to the library, once."""
    for name, (package, file) in _FONTS.items():
        if name not in pdfmetrics.getRegisteredFontNames():
            found = next(Path(str(package.__file__)).parent.rglob(file))
            pdfmetrics.registerFont(TTFont(name, str(found)))


def _style(name: str, font: str, size: float, **more: Any) -> ParagraphStyle:  # noqa: ANN401
    return ParagraphStyle(
        name, fontName=font, fontSize=size, leading=size * 1.3, textColor=INK, **more
    )


TITLE = _style("title", "Serif-Bold", 19, spaceAfter=6)
SENTENCE = _style("sentence", "Serif", 11.5, spaceAfter=8)
LABEL = _style("label", "Sans", 10, spaceBefore=4)
LARGE = _style("large", "Sans-Bold", 27, spaceAfter=2)
REASON = _style("reason", "Serif-Bold", 14, spaceAfter=4)
BODY = _style("body", "Sans", 9.5)
HEAD = _style("head", "Serif-Bold", 12.5, spaceBefore=10, spaceAfter=4)


class _Numbered(Canvas):
    """A canvas that knows how many pages there are when it draws their feet."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:  # noqa: ANN401
        super().__init__(*args, **kwargs)
        self.pages: list[dict[str, Any]] = []
        self.foot = ""
        self.wide = 0.0

    def showPage(self) -> None:  # noqa: N802
        self.pages.append(dict(self.__dict__))
        self._startPage()

    def save(self) -> None:
        for number, page in enumerate(self.pages, 1):
            self.__dict__.update(page)
            self.setFont("Sans", 8)
            self.setFillColor(SOFT)
            self.drawString(18 * mm, 10 * mm, self.foot)
            self.drawRightString(self.wide - 18 * mm, 10 * mm, f"{number} / {len(self.pages)}")
            super().showPage()
        super().save()


def numbered(foot: str, wide: float) -> Callable[..., Canvas]:
    """A canvas for pages so wide, with the foot, the day and the number of each on it."""

    def canvas(*args: Any, **kwargs: Any) -> _Numbered:  # noqa: ANN401
        made = _Numbered(*args, **kwargs)
        text = f"{foot} · {write_day(timezone.localdate())}"
        made.foot = simpleSplit(text, "Sans", 8, wide - 66 * mm)[0]
        made.wide = wide
        return made

    return canvas


GRID: Final = [
    ("FONT", (0, 0), (-1, -1), "Sans", 8.5),
    ("FONT", (0, 0), (-1, 0), "Sans-Bold", 8.5),
    ("ALIGN", (1, 0), (-1, -1), "RIGHT"),
    ("LINEBELOW", (0, 0), (-1, 0), 0.8, INK),
    ("LINEBELOW", (0, 1), (-1, -1), 0.25, RULE),
    ("TOPPADDING", (0, 0), (-1, -1), 1.5),
    ("BOTTOMPADDING", (0, 0), (-1, -1), 2),
]
