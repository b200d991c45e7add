"""Pictures as phones take them: upright, small, with nothing in them but what is seen.

Exif's tags by number as CIPA DC-008 (Exif 2.32) lists them.
"""

import io
import unittest
from datetime import date

import numpy as np
from PIL import Image

from june_shade.core.errors import InputError, TooLargeError
from june_shade.formats.picture import LONGEST_PX, SMALL_PX, ready, small

ORIENTATION, MAKER, MODEL, GPS, TAKEN, OF_PICTURE = 0x0112, 0x010F, 0x0110, 0x8825, 0x9003, 0x8769
RED, GREEN = (200, 30, 30), (20, 160, 40)


def taken(size=(40, 20), *, kind="JPEG", orientation=1, mode="RGB", day="2026:07:01 06:10:00", color=RED) -> bytes:
    """A picture whose upper left quarter is green, as its camera stores it."""
    image = Image.new(mode, size, color)
    image.paste(GREEN if mode == "RGB" else (*GREEN, 255), (0, 0, size[0] // 2, size[1] // 2))
    exif = Image.Exif()
    exif[ORIENTATION], exif[MAKER], exif[MODEL] = orientation, "A camera", "A model"
    exif.get_ifd(GPS)[2] = (39.0, 45.0, 11.0)
    exif.get_ifd(OF_PICTURE)[TAKEN] = day
    out = io.BytesIO()
    image.save(out, kind, exif=exif)
    return out.getvalue()


def seen(jpeg: bytes) -> Image.Image:
    return Image.open(io.BytesIO(jpeg))


def corner(jpeg: bytes) -> str:
    """Where the green quarter is."""
    green = np.asarray(seen(jpeg).convert("RGB")).astype(int)
    green = green[..., 1] > green[..., 0]
    rows, columns = np.nonzero(green)
    height, width = green.shape
    return ("top" if rows.mean() < height / 2 else "bottom") + (" left" if columns.mean() < width / 2 else " right")


class Ready(unittest.TestCase):
    def test_it_stands_as_it_was_seen_whatever_way_the_camera_was_held(self):
        # Exif 2.32, tag 274: where the 0th row and the 0th column of what is stored are seen
        for orientation, where, size in (
            (1, "top left", (40, 20)), (2, "top right", (40, 20)), (3, "bottom right", (40, 20)),
            (4, "bottom left", (40, 20)), (5, "top left", (20, 40)), (6, "top right", (20, 40)),
            (7, "bottom right", (20, 40)), (8, "bottom left", (20, 40)),
        ):  # fmt: skip
            with self.subTest(orientation):
                found = ready(taken(orientation=orientation))
                self.assertEqual((corner(found.jpeg), (found.width_px, found.height_px)), (where, size))

    def test_nothing_is_left_of_place_and_maker(self):
        for kind in ("JPEG", "PNG", "WEBP"):
            data = taken(kind=kind)
            self.assertIn(b"A camera", data)
            found = ready(data)
            self.assertNotIn(b"A camera", found.jpeg)
            self.assertEqual((dict(seen(found.jpeg).getexif()), seen(found.jpeg).format), ({}, "JPEG"))
            self.assertLessEqual(set(seen(found.jpeg).info), {"jfif", "jfif_version", "jfif_unit", "jfif_density"})

    def test_a_file_that_is_a_script_too_is_a_picture_only(self):
        script = b"<script>alert(1)</script>"
        for data in (taken() + script, taken().replace(b"A camera", b"<script>")):
            found = ready(data)
            self.assertNotIn(b"<script", found.jpeg)
        for data in (
            script,
            b"<svg xmlns='http://www.w3.org/2000/svg' onload='alert(1)'/>",
            b"",
            b"\xff\xd8\xff",
            b"GIF89a",
        ):
            with self.assertRaisesRegex(InputError, "JPEG, PNG or WebP"):
                ready(data)

    def test_a_large_one_becomes_small_and_keeps_its_shape(self):
        found = ready(taken((4000, 3000), orientation=6))
        self.assertEqual((found.width_px, found.height_px), (1200, LONGEST_PX))
        self.assertEqual(seen(found.jpeg).size, (1200, LONGEST_PX))
        self.assertEqual(max(seen(small(found.jpeg)).size), SMALL_PX)
        self.assertEqual(ready(taken((30, 20))).width_px, 30, "a small one is not made larger")

    def test_what_is_seen_through_stands_on_white(self):
        data = taken((16, 16), kind="PNG", mode="RGBA", color=(0, 0, 0, 0))
        self.assertGreater(min(seen(ready(data).jpeg).getpixel((14, 14))), 240)

    def test_the_day_is_as_the_camera_wrote_it_where_it_wrote_one(self):
        self.assertEqual(ready(taken()).taken_on, date(2026, 7, 1))
        for day in ("0000:00:00 00:00:00", "yesterday", ""):
            self.assertIsNone(ready(taken(day=day)).taken_on)

    def test_a_half_file_and_one_too_large_are_refused(self):
        whole = taken((400, 300))
        with self.assertRaises(InputError):
            ready(whole[: len(whole) // 2])
        with self.assertRaisesRegex(TooLargeError, "20 MB"):
            ready(whole + b"\0" * 20_000_000)
        out = io.BytesIO()
        Image.new("1", (12_000, 12_000)).save(out, "PNG")  # few bytes, many points
        self.assertLess(len(out.getvalue()), 100_000)
        with self.assertRaisesRegex(TooLargeError, "million points"):
            ready(out.getvalue())

    def test_the_same_file_is_the_same_picture(self):
        self.assertEqual(ready(taken()).jpeg, ready(taken()).jpeg)


if __name__ == "__main__":
    unittest.main()
