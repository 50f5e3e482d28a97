"""The moving picture of the README: one notch and its consequences, from the demo, as an animated PNG: python
tools/moving.py [FILE]. Needs a demo server as tools/shots.py does; the draft is put back as it stood.
"""

import io
import sys
from pathlib import Path

from PIL import Image, ImageDraw
from playwright.sync_api import Page, sync_playwright

from shots import FLAGS, enter, settle

WIDTH, HEIGHT, COLOURS = 1180, 820, 64
SCALE = 0.7
NOTCH = "#more-rear_sprocket_teeth"


def frame(page: Page, hand: str | None = None) -> Image.Image:
    """The page as it stands, with a hand at what is pressed next."""
    settle(page)
    image = Image.open(io.BytesIO(page.screenshot())).convert("RGB")
    if hand:
        box = page.locator(hand).bounding_box()
        assert box is not None
        x, y = box["x"] + 0.7 * box["width"], box["y"] + 0.6 * box["height"]
        pen = ImageDraw.Draw(image)
        pen.ellipse((x - 22, y - 22, x + 22, y + 22), outline="#9a4a12", width=5)
    return image.resize((round(WIDTH * SCALE), round(HEIGHT * SCALE)), Image.Resampling.LANCZOS)


def main() -> None:
    out = Path(sys.argv[1]) if len(sys.argv) > 1 else Path(__file__).parents[1] / "docs/notch.png"
    with sync_playwright() as p:
        browser = p.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        page = browser.new_page(viewport={"width": WIDTH, "height": HEIGHT}, reduced_motion="reduce")
        page.goto(f"{enter(page)}/drive/?at=22100")
        page.locator("#row-rear_sprocket_teeth").evaluate("row => row.scrollIntoView({block: 'end'})")
        frames = [(frame(page), 1800), (frame(page, NOTCH), 900)]
        for hand in (NOTCH, None):
            page.locator(NOTCH).click()
            page.mouse.move(5, 5)
            page.wait_for_timeout(1500)
            frames.append((frame(page, hand), 1500 if hand else 4500))
        page.get_by_role("button", name="Put back all").click()
        settle(page)
        browser.close()
    palette = frames[-1][0].quantize(COLOURS, dither=Image.Dither.NONE)
    images = [image.quantize(palette=palette, dither=Image.Dither.NONE) for image, _ms in frames]
    images[0].save(
        out, save_all=True, append_images=images[1:], duration=[ms for _i, ms in frames], loop=0, optimize=True
    )
    print(f"{out.name}: {out.stat().st_size / 1e3:.0f} kB")


if __name__ == "__main__":
    main()
