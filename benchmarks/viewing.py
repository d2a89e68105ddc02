"""Large photos: the first picture, repainting, the loupe, a changed correction, and memory."""

from __future__ import annotations

import io
import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import numpy as np
from PIL import Image

from benchmarks.figure import report

_SIZE, _LARGE = (6000, 4000), (8640, 5760)
_VIEW = (1280, 800)
_REPEATS = 25


def _photo(size: tuple[int, int] = _SIZE) -> bytes:
    """A JPEG of 24 megapixels, or of another size, with detail at every size."""
    rng = np.random.default_rng(24)
    small = rng.normal(0, 1, (2, size[1] // 16, size[0] // 16, 3))
    coarse = np.kron(small[0][::8, ::8], np.ones((128, 128, 1)))[: size[1], : size[0]]
    fine = np.kron(small[1], np.ones((16, 16, 1)))
    picture = 120 + 30 * coarse + 14 * fine + rng.normal(0, 4, (size[1], size[0], 1))
    file = io.BytesIO()
    Image.fromarray(np.clip(picture, 0, 255).astype(np.uint8)).save(file, "JPEG", quality=90)
    return file.getvalue()


def _best(work: Callable[[], object], repeats: int = _REPEATS) -> float:
    times = []
    for _ in range(repeats):
        start = time.perf_counter()
        work()
        times.append(time.perf_counter() - start)
    return min(times)


def _views(data: bytes) -> bool:
    """Repainting against the smooth-scaled drawing of the pyramid level without a cache."""
    os.environ["QT_QPA_PLATFORM"] = "offscreen"
    from PySide6.QtCore import QPointF, QRectF
    from PySide6.QtGui import QImage, QPainter

    from lean_sepia.photo.correction.cast import Anchor
    from lean_sepia.photo.correction.cast_fit import fit_cast
    from lean_sepia.photo.preview import CorrectionTable
    from lean_sepia.photo.pyramid import build_pyramid
    from lean_sepia.photo.read import decode_picture, quick_look
    from lean_sepia.ui.app import make_app
    from lean_sepia.ui.photo.loupe import Loupe
    from lean_sepia.ui.photo.screen_image import to_image
    from lean_sepia.ui.photo.viewer import PhotoViewer

    app = make_app([])
    viewer = PhotoViewer()
    viewer.resize(*_VIEW)
    viewer.show()
    canvas = QImage(*_VIEW, QImage.Format.Format_RGB32)

    def bare() -> None:
        Image.open(io.BytesIO(data)).convert("RGB").load()

    def first() -> None:
        pixels = quick_look(data, 1400)
        assert pixels is not None
        viewer.show_picture(build_pyramid(pixels, *_SIZE))
        viewer.render(canvas)

    full = _best(bare, 3)
    look = _best(first, 3)
    reached = report(
        "photo, 24 megapixels: first picture on screen",
        look / full,
        1.3,
        "a bare full Pillow decode",
        _ms(look, full),
    )

    start = time.perf_counter()
    picture = decode_picture(data, "photo.jpg")
    pyramid = build_pyramid(picture.pixels)
    detail = time.perf_counter() - start
    report(
        "photo, 24 megapixels: full detail",
        detail / full,
        None,
        "a bare full Pillow decode",
        _ms(detail, full),
    )

    viewer.show_picture(pyramid)
    viewer.fit()
    level = pyramid.level_for(viewer._scale)
    image, target = to_image(level), QRectF(viewer._offset, QPointF(*_SIZE) * viewer._scale + viewer._offset)

    def plain() -> None:
        painter = QPainter(canvas)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawImage(target, image)
        painter.end()

    repaint = _best(plain)
    anchors = [Anchor(500, 500, 8, 60.0), Anchor(2500, 1500, 8, 40.0)]
    cast = fit_cast(picture.pixels, anchors)
    correction = CorrectionTable(cast)
    viewer.show_picture(pyramid, correction)
    turn = [0]

    def panned() -> None:
        turn[0] += 1
        viewer._offset += QPointF(1 if turn[0] % 2 else -1, 0)
        viewer.render(canvas)

    def corrected() -> None:
        viewer.show_picture(pyramid, CorrectionTable(fit_cast(picture.pixels, anchors)))
        viewer.render(canvas)

    loupe = Loupe(viewer)

    def looked() -> None:
        square = correction.apply(pyramid.view(1500, 1500, 4.0, 76, 76, 160))
        loupe.show_place((50.0, 3.0, 4.0), square, 0.5)
        loupe.render(canvas)
        viewer.render(canvas)

    viewer._show_detail()
    viewer.render(canvas)
    still = _best(lambda: viewer.render(canvas))
    baseline = "the smooth-scaled drawing of the pyramid level at 1280 × 800"
    viewer._show_detail()
    moved = _best(panned)
    report("photo: pan or zoom, corrected", moved / repaint, None, baseline, _ms(moved, repaint))
    with_loupe = _best(looked) - still
    reached &= report(
        "photo: what the loupe adds", max(with_loupe, 0) / repaint, 1.0, baseline, _ms(with_loupe, repaint)
    )
    viewer._show_detail()
    changed = _best(corrected)
    reached &= report(
        "photo: a changed correction, fitted and shown",
        changed / repaint,
        6.0,
        baseline,
        _ms(changed, repaint),
    )
    _while_decoding(viewer, panned, moved)
    viewer.close()
    app.processEvents()
    return reached


def _while_decoding(viewer, panned: Callable[[], None], alone: float) -> None:
    """How long a pan takes at worst while 50 megapixels are decoded in another thread."""
    from lean_sepia.photo.pyramid import build_pyramid
    from lean_sepia.photo.read import decode_picture

    data = _photo(_LARGE)
    with ThreadPoolExecutor(1) as pool:
        start = time.perf_counter()
        job = pool.submit(lambda: build_pyramid(decode_picture(data, "large.jpg").pixels))
        times = []
        while not job.done():
            one = time.perf_counter()
            panned()
            times.append(time.perf_counter() - one)
        whole = time.perf_counter() - start
    viewer._show_detail()
    report(
        f"photo, 50 megapixels: the slowest of {len(times)} pans while it is decoded",
        max(times) / whole,
        0.25,
        "the decoding, which would be the wait if pans were blocked by it",
        _ms(max(times), whole) + f"  [a pan alone: {1000 * alone:.0f} ms]",
    )


def _ms(value: float, baseline: float) -> str:
    return f"[{1000 * value:.0f} ms against {1000 * baseline:.0f} ms]"


_MEMORY = """
import sys
sys.path.insert(0, "src")
from pathlib import Path
from lean_sepia.photo.read import decode_picture, Picture
from lean_sepia.photo.pyramid import build_pyramid
from lean_sepia.photo.correction.cast import Anchor
from lean_sepia.photo.correction.cast_fit import fit_cast
from lean_sepia.photo.preview import CorrectionTable
from PIL import Image
import numpy as np
small = np.full((64, 64, 3), 99, np.uint8)
CorrectionTable(fit_cast(small, [Anchor(20, 20, 5, 50.0)])).apply(build_pyramid(small).view(0, 0, 1.0, 64, 64, 160))
data = Path(sys.argv[1]).read_bytes()
def peak():
    status = Path("/proc/self/status").read_text()
    return int(status.split("VmHWM:")[1].split()[0])
before = peak()
picture = decode_picture(data, "photo.jpg")
pyramid = build_pyramid(picture.pixels)
table = CorrectionTable(fit_cast(picture.pixels, [Anchor(500, 500, 8, 60.0)]))
table.apply(pyramid.view(0, 0, 0.2, 1280, 800, 160))
after = peak()
print((after - before) * 1024 / picture.pixels.nbytes)
"""


def main() -> bool:
    """First picture, repaints, loupe, correction and memory."""
    data = _photo()
    reached = _views(data)
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "photo.jpg"
        path.write_bytes(data)
        found = subprocess.run(
            [sys.executable, "-c", _MEMORY, str(path)], capture_output=True, text=True, check=True
        )
    return (
        report("photo, 24 megapixels: peak memory", float(found.stdout), 4.0, "the decoded picture")
        and reached
    )
