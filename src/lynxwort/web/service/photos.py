"""Pictures from a phone, made anew: turned upright, small, nothing in them but what is seen."""

from io import BytesIO
from typing import BinaryIO

from PIL import Image, ImageOps, UnidentifiedImageError

from lynxwort.core.errors import InputRefused, Refusal

#: bytes and points of a picture that are looked at at all; longest side [points] and quality of what is kept
MOST_BYTES, MOST_POINTS, SIDE, QUALITY = 25_000_000, 80_000_000, 1280, 78
KINDS = ("JPEG", "PNG", "WEBP")


def taken_in(file: BinaryIO, size: int) -> bytes:
    """A picture as it is kept, a JPEG without any data of its own. Raises InputRefused."""
    if size > MOST_BYTES:
        raise _refuse("photo_too_large", MOST_BYTES / 1e6)
    try:
        with Image.open(file, formats=KINDS) as seen:
            # the head of the file says how large it is, before anything of it is unpacked
            if seen.width * seen.height > MOST_POINTS:
                raise _refuse("photo_too_large", MOST_BYTES / 1e6)
            seen.draft("RGB", (SIDE, SIDE))
            upright = ImageOps.exif_transpose(seen).convert("RGB")
    except InputRefused:
        raise
    except (UnidentifiedImageError, Image.DecompressionBombError, OSError, ValueError, SyntaxError, EOFError):
        raise _refuse("not_a_photo") from None
    upright.thumbnail((SIDE, SIDE))
    # points alone are copied: what else the file held stays behind
    plain = Image.new("RGB", upright.size)
    plain.paste(upright)
    made = BytesIO()
    plain.save(made, "JPEG", quality=QUALITY, optimize=True)
    return made.getvalue()


def _refuse(code: str, high: float | None = None) -> InputRefused:
    return InputRefused(Refusal(path="photo", code=code, high=high))
