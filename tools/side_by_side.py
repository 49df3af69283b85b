"""Puts pictures side by side with a caption each: the mockup and the page that was built from it.

python tools/side_by_side.py OUT.png "caption" picture.png "caption" picture.png
"""

from __future__ import annotations

import sys
from pathlib import Path

from PIL import Image, ImageDraw, ImageFont

FONT = Path(__file__).parent.parent / "src/riffler/demo/fernhollow/fonts/figtree-600.ttf"

#: Width of each picture, space around, height of a caption; pixels.
WIDTH, GAP, CAPTION = 600, 24, 40


def main(out: str, *pairs: str) -> None:
    captions, names = pairs[::2], pairs[1::2]
    pictures = []
    for name in names:
        with Image.open(name) as opened:
            picture: Image.Image = opened
            height = round(picture.height * WIDTH / picture.width)
            pictures.append(
                picture.convert("RGB").resize((WIDTH, height), Image.Resampling.LANCZOS)
            )
    tall = max(picture.height for picture in pictures)
    sheet = Image.new("RGB", (GAP + (WIDTH + GAP) * len(pictures), tall + CAPTION + GAP), "#e8e2d6")
    draw, font = ImageDraw.Draw(sheet), ImageFont.truetype(FONT, 18)
    for index, (caption, picture) in enumerate(zip(captions, pictures, strict=True)):
        x = GAP + (WIDTH + GAP) * index
        draw.text((x, 10), caption, fill="#33231a", font=font)
        sheet.paste(picture, (x, CAPTION))
    sheet.save(out, optimize=True)


if __name__ == "__main__":
    main(*sys.argv[1:])
