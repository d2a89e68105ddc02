"""The demo on disk: rendered once into the user's cache, then only opened."""

from __future__ import annotations

import contextlib
import io
import json
import os
import shutil
import tempfile
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from PIL import Image

from lean_sepia.arrays import Image8
from lean_sepia.demo.bus import bus_project
from lean_sepia.demo.camera import evening_slide, ortho_print, overcast_print, phone_picture, take
from lean_sepia.demo.canvas import MM_PER_PX
from lean_sepia.demo.project import PHOTOS, WEAR_BOX, untouched_project, worked_project
from lean_sepia.demo.prototype import true_labs
from lean_sepia.demo.scene import draw_scene
from lean_sepia.demo.shelf import demo_shelf
from lean_sepia.document.store import ProjectStore
from lean_sepia.errors import BadInputError
from lean_sepia.files.gate import shown
from lean_sepia.files.own_folders import own_folder
from lean_sepia.language import _
from lean_sepia.photo.read import Picture, decode_picture
from lean_sepia.shelf.shelf import SHELF_NAME, Shelf
from lean_sepia.shelf.shelf_file import write_shelf

EDITION = 16
"""Raised when the demo's content changes, so that an older one in the cache is not used."""

FILES = (
    "tordmule.sepia", "tordmule-untouched.sepia", "harbour-bus.sepia", SHELF_NAME, "shelf.json", "truth.json",
    *(photo.file for photo in PHOTOS),
)  # fmt: skip
"""What the demo's folder holds when it is made."""

_EXIF_TAKEN, _EXIF_IFD = 0x9003, 0x8769
_SEED = 0


@dataclass(frozen=True)
class Demo:
    """Paths of the demo's files."""

    folder: Path

    @property
    def worked(self) -> Path:
        """The half-worked project."""
        return self.folder / "tordmule.sepia"

    @property
    def untouched(self) -> Path:
        """The project with photos and zones only, to try on."""
        return self.folder / "tordmule-untouched.sepia"

    @property
    def bus(self) -> Path:
        """The second subject, made over without a photo."""
        return self.folder / "harbour-bus.sepia"

    @property
    def shelf_file(self) -> Path:
        """The shelf as a shelf file."""
        return self.folder / "shelf.json"

    @property
    def truth(self) -> dict[str, object]:
        """True colours and wear, for checks."""
        data: dict[str, object] = json.loads((self.folder / "truth.json").read_text(encoding="utf-8"))
        return data

    def photo(self, name: str) -> Path:
        """A rendered photo by its file name."""
        return self.folder / name


def _no_report(_message: str) -> None:
    return


def ensure_demo(folder: Path | None = None, progress: Callable[[str], None] = _no_report) -> Demo:
    """The demo's folder, made first where it is missing; an interrupted making leaves nothing behind.

    Where only some of its files are missing those are put back: what is there may have been worked on, and is never touched.
    """
    target = folder or own_folder("cache") / f"demo-{EDITION}"
    demo = Demo(target)
    if all(os.path.lexists(target / name) for name in FILES):
        return demo
    try:
        target.parent.mkdir(parents=True, exist_ok=True)
        making = Path(tempfile.mkdtemp(prefix="demo-making-", dir=target.parent))
    except OSError as error:
        raise _not_put(target, error) from None
    try:
        _make(making, progress)
        try:
            _put_in_place(making, target)
        except OSError as error:
            raise _not_put(target, error) from None
    finally:
        shutil.rmtree(making, ignore_errors=True)
    return demo


def _not_put(target: Path, error: OSError) -> BadInputError:
    words = _("The demo cannot be put into {0}: {1}. It needs a folder that can be written to.")
    return BadInputError(words.format(shown(target), error.strerror or error))


def _put_in_place(making: Path, target: Path) -> None:
    """Move what was made to where it belongs, each file only where none is."""
    try:
        making.rename(target)  # all at once, where nothing is there or an empty folder
    except OSError:
        target.mkdir(exist_ok=True)
        for made in making.iterdir():
            with (
                contextlib.suppress(FileExistsError),
                made.open("rb") as source,
                (target / made.name).open("xb") as out,
            ):
                shutil.copyfileobj(source, out)


def _make(folder: Path, progress: Callable[[str], None]) -> None:
    progress("Drawing the buoy tender")
    scene = draw_scene()
    encoded: dict[str, bytes] = {}
    progress("Exposing the evening slide of 1957")
    encoded["slide-1957.jpg"] = _jpeg(take(scene, evening_slide(_SEED), _SEED), "")
    progress("Exposing the overcast print of 1958")
    encoded["print-1958.jpg"] = _jpeg(take(scene, overcast_print(_SEED), _SEED), "")
    progress("Exposing the press print of 1951")
    earlier = draw_scene(1951, "first livery")
    encoded["ortho-1951.png"] = _grey_png(take(earlier, ortho_print(_SEED), _SEED))
    progress("Photographing the model")
    model = draw_scene(2026, "model")
    encoded["phone-model.jpg"] = _jpeg(take(model, phone_picture(_SEED), _SEED), "2026:11:20 18:40:00")
    for name, data in encoded.items():
        (folder / name).write_bytes(data)
    pictures = {name: decode_picture(data, name) for name, data in encoded.items()}
    truth = {
        "labs": true_labs(),
        "wear_box": WEAR_BOX,
        "wear_percent": scene.wear_coverage(*WEAR_BOX),
        "mm_per_px": MM_PER_PX,
        "spots": scene.spots,
        "model_spots": model.spots,
    }
    (folder / "truth.json").write_text(json.dumps(truth, indent=1), encoding="utf-8")
    progress("Filling the demo's shelf")
    content = demo_shelf()
    write_shelf(folder / "shelf.json", content)
    shelf = Shelf(folder / SHELF_NAME)
    shelf.add(content)
    paints = shelf.paints()
    shelf.close()
    projects = {
        "tordmule.sepia": worked_project(pictures, scene, paints, progress),
        "tordmule-untouched.sepia": untouched_project(pictures),
    }
    ProjectStore.create(folder / "harbour-bus.sepia", bus_project(paints)).close()
    for name, project in projects.items():
        store = ProjectStore.create(folder / name, project)
        for photo in PHOTOS:
            picture: Picture = pictures[photo.file]
            store.add_photo(picture.sha256, picture.media_type, photo.file, encoded[photo.file])
        store.close()


def _jpeg(pixels: Image8, taken: str) -> bytes:
    image = Image.fromarray(pixels)
    exif = Image.Exif()
    if taken:
        exif.get_ifd(_EXIF_IFD)[_EXIF_TAKEN] = taken
    out = io.BytesIO()
    image.save(out, "JPEG", quality=93, subsampling=0, exif=exif)
    return out.getvalue()


def _grey_png(pixels: Image8) -> bytes:
    out = io.BytesIO()
    Image.fromarray(pixels[..., 1]).save(out, "PNG", optimize=False)
    return out.getvalue()
