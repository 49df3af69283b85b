"""What a person would write with Pillow alone: lay all layers down once, crop and save.

python -m benchmarks.plain MOCKUP BOXES.json FOLDER
"""

from __future__ import annotations

import io
import json
import sys
import xml.etree.ElementTree as ET
import zipfile
from pathlib import Path

from PIL import Image


def main() -> None:
    mockup, boxes, folder = sys.argv[1:]
    with zipfile.ZipFile(mockup) as archive:
        image = ET.fromstring(archive.read("stack.xml"))
        canvas = Image.new("RGBA", (int(image.attrib["w"]), int(image.attrib["h"])))
        for layer in reversed(image[0]):
            picture = Image.open(io.BytesIO(archive.read(layer.attrib["src"]))).convert("RGBA")
            canvas.alpha_composite(picture, (int(layer.get("x", 0)), int(layer.get("y", 0))))
    page = canvas.convert("RGB")
    for number, (x, y, width, height) in enumerate(json.loads(Path(boxes).read_text())):
        crop = page.crop((x, y, x + width, y + height))
        crop.save(Path(folder) / f"{number}.jpg", quality=88)


if __name__ == "__main__":
    main()
