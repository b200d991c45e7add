"""Pictures as phones take them, made ready to be kept: upright, small enough, nothing in them but what is seen.

Orientation and days as Exif has them (JEITA CP-3451). Whatever else a file holds, where it was taken and with what,
another file behind it, a script, is left behind: only its points are written again.
"""

import io
import warnings
from dataclasses import dataclass
from datetime import date, datetime

from PIL import Image, ImageCms, ImageOps

from june_shade.core.errors import InputError, TooLargeError

MOST_BYTES = 20_000_000
TOO_LARGE = f"the picture is over {MOST_BYTES // 1_000_000} MB; take it smaller"
MOST_POINTS = 100_000_000
"""A file may say that it has far more points than it has bytes."""
LONGEST_PX, SMALL_PX = 1600, 320
QUALITY, SMALL_QUALITY = 82, 75
FORMATS = ("JPEG", "PNG", "WEBP")
TAKEN, OF_PICTURE = 36867, 0x8769
"""Exif's tags of when a picture was taken, and of the part that holds it."""
BROKEN = (OSError, ValueError, SyntaxError, EOFError, ArithmeticError, KeyError, TypeError, IndexError)
"""What is raised for a file that is no whole picture."""


@dataclass(frozen=True, slots=True)
class Picture:
    """A picture as it is kept: a JPEG; the day that its camera wrote into it, None where it wrote none."""

    jpeg: bytes
    width_px: int
    height_px: int
    taken_on: date | None


def ready(data: bytes) -> Picture:
    """A picture made ready to be kept.

    Raises InputError for what is no picture, TooLargeError for one that is too large.
    """
    if len(data) > MOST_BYTES:
        raise TooLargeError(TOO_LARGE, "file")
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            image = Image.open(io.BytesIO(data), formats=FORMATS)
            if image.width * image.height > MOST_POINTS:
                raise TooLargeError(f"the picture has over {MOST_POINTS // 1_000_000} million points", "file")
            taken_on = _taken_on(image)
            image.draft("RGB", (LONGEST_PX, LONGEST_PX))
            upright = ImageOps.exif_transpose(image)
            plain = _plain(upright)
    except (Image.DecompressionBombError, *BROKEN):
        raise InputError(
            "can't be read as a picture: it must be a JPEG, PNG or WebP; a phone that takes HEIC can be set to JPEG",
            "file",
        ) from None  # fmt: skip
    plain.thumbnail((LONGEST_PX, LONGEST_PX), Image.Resampling.LANCZOS)
    return Picture(_jpeg(plain, QUALITY), *plain.size, taken_on)


def small(jpeg: bytes) -> bytes:
    """The same for a list of many. jpeg: a picture as it is kept."""
    image = Image.open(io.BytesIO(jpeg), formats=("JPEG",))
    image.draft("RGB", (SMALL_PX, SMALL_PX))
    image.thumbnail((SMALL_PX, SMALL_PX), Image.Resampling.LANCZOS)
    return _jpeg(image, SMALL_QUALITY)


def _jpeg(image: Image.Image, quality: int) -> bytes:
    out = io.BytesIO()
    image.save(out, "JPEG", quality=quality, optimize=True, exif=b"", icc_profile=None)
    return out.getvalue()


def _plain(image: Image.Image) -> Image.Image:
    """Its points in plain colors, what is seen through on white."""
    profile = image.info.get("icc_profile")
    if image.has_transparency_data:
        image = image.convert("RGBA")
        white = Image.new("RGBA", image.size, "white")
        white.alpha_composite(image)
        image = white
    image = image.convert("RGB")
    if profile:
        try:
            own = ImageCms.ImageCmsProfile(io.BytesIO(profile))
            found = ImageCms.profileToProfile(image, own, ImageCms.createProfile("sRGB"), outputMode="RGB")
            image = found or image
        except (ImageCms.PyCMSError, OSError):
            pass  # a profile for other colors than it has: shown as it is
    plain = Image.new("RGB", image.size)  # takes nothing along
    plain.paste(image)
    return plain


def _taken_on(image: Image.Image) -> date | None:
    try:
        said = image.getexif().get_ifd(OF_PICTURE).get(TAKEN)
        return datetime.strptime(str(said), "%Y:%m:%d %H:%M:%S").date()
    except (*BROKEN, AttributeError):
        return None
