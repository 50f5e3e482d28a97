"""Pictures from a phone, made anew: turned upright, small, nothing in them but what is seen."""

import base64
from io import BytesIO
from pathlib import Path
from typing import Any

from PIL import Image, ImageOps, UnidentifiedImageError

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.web.jobs import apart

#: bytes and points of a picture that are looked at at all; longest side [points] and quality of what is kept
MOST_BYTES, MOST_POINTS, SIDE, QUALITY = 25_000_000, 60_000_000, 1280, 78
#: other kinds are unpacked whole: a small file may hold very many points
MOST_PLAIN_POINTS = 16_000_000
KINDS = ("JPEG", "PNG", "WEBP")


def taken_in(file: Any) -> bytes:
    """An uploaded picture as it is kept, a JPEG without any data of its own; a large one is read in the process beside.
    Raises InputRefused.
    """
    if file.size > MOST_BYTES:
        raise _refuse("photo_too_large", MOST_BYTES / 1e6)
    return base64.b64decode(apart.read("lynxwort.web.service.photos:made", file, {}, here=made))


def made(payload: dict[str, Any], _step: Any) -> str:
    """The verb of it: the picture anew, as base64. Raises InputRefused."""
    return base64.b64encode(anew(Path(payload["path"]).read_bytes())).decode()


def anew(data: bytes) -> bytes:
    """A picture turned upright, small, and nothing in it but what is seen. Raises InputRefused."""
    try:
        with Image.open(BytesIO(data), formats=KINDS) as seen:
            # the head of the file says how large it is, before anything of it is unpacked
            if seen.width * seen.height > (MOST_POINTS if seen.format == "JPEG" else MOST_PLAIN_POINTS):
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
    out = BytesIO()
    plain.save(out, "JPEG", quality=QUALITY, optimize=True)
    return out.getvalue()


def _refuse(code: str, high: float | None = None) -> InputRefused:
    return InputRefused(Refusal(path="photo", code=code, high=high))
