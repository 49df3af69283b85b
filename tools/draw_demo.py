"""Draws the two mockups of the example, home.ora and hives.svg, the same bytes on every machine.

    python tools/draw_demo.py

Raster layers are drawn from small SVG pieces at two pixels per CSS pixel; the paper is computed.
All coordinates are CSS pixels of a page 960 wide.
"""

from __future__ import annotations

import io
import sys
import zipfile
from pathlib import Path

import numpy as np
import resvg_py
from PIL import Image

sys.path.insert(0, str(Path(__file__).parent))

from demo_art import hives, home

ROOT = Path(__file__).parent.parent / "src/riffler/demo/fernhollow"
DENSITY = 2

#: The date that every member of the archive carries: no clock in what we make.
EPOCH = (1980, 1, 1, 0, 0, 0)


def main() -> None:
    write_home(ROOT / "mockups/home.ora")
    (ROOT / "mockups/hives.svg").write_text(hives.drawing(), encoding="utf-8", newline="\n")
    for path in sorted((ROOT / "mockups").iterdir()):
        print(f"{path.name}: {path.stat().st_size / 1e6:.2f} MB")


def write_home(path: Path) -> None:
    """Write the layered pixel mockup: stack, layers cropped to what they paint, merged picture."""
    files: dict[str, bytes] = {}
    merged = Image.new("RGBA", (home.WIDTH * DENSITY, home.HEIGHT * DENSITY))
    stack = layer_lines(home.LAYERS, files, merged, 2, True)
    files["stack.xml"] = (
        "<?xml version='1.0' encoding='UTF-8'?>\n"
        f'<image version="0.0.6" w="{merged.width}" h="{merged.height}" xres="144" yres="144">\n'
        f" <stack>\n{stack} </stack>\n</image>\n"
    ).encode()
    files["mergedimage.png"] = png(merged.convert("RGB"))
    small = merged.copy()
    small.thumbnail((256, 256), Image.Resampling.LANCZOS)
    files["Thumbnails/thumbnail.png"] = png(small)
    with zipfile.ZipFile(path, "w") as archive:
        for name, data in {"mimetype": b"image/openraster", **dict(sorted(files.items()))}.items():
            method = zipfile.ZIP_DEFLATED if name.endswith(".xml") else zipfile.ZIP_STORED
            member = zipfile.ZipInfo(name, EPOCH)
            member.compress_type = method
            archive.writestr(member, data)


def layer_lines(
    layers: home.Layers, files: dict[str, bytes], merged: Image.Image, depth: int, shown: bool
) -> str:
    """The stack's lines for `layers`, lowest first; what shows is laid onto `merged`."""
    lines = []
    indent = " " * depth
    for layer in layers:
        hidden = ' visibility="hidden"' if layer.hidden else ""
        seen = shown and not layer.hidden
        if layer.children:
            inner = layer_lines(layer.children, files, merged, depth + 1, seen)
            lines.append(f'{indent}<stack name="{layer.name}"{hidden}>\n{inner}{indent}</stack>\n')
            continue
        picture = paper() if layer.name == "paper" else drawn(layer.svg)
        box = picture.getbbox()
        assert box is not None, layer.name
        cropped = picture.crop(box)
        source = f"data/{len(files):03}-{layer.name}.png"
        files[source] = png(cropped)
        lines.append(
            f'{indent}<layer name="{layer.name}" src="{source}" x="{box[0]}" y="{box[1]}"{hidden}/>\n'
        )
        if seen:
            merged.alpha_composite(cropped, box[:2])
    return "".join(reversed(lines))


def drawn(svg: str) -> Image.Image:
    """A piece of SVG on the whole canvas, at the mockup's density."""
    document = (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {home.WIDTH} {home.HEIGHT}" '
        f'width="{home.WIDTH * DENSITY}" height="{home.HEIGHT * DENSITY}">{svg}</svg>'
    )
    fonts = sorted(str(path) for path in (ROOT / "fonts").glob("*.ttf"))
    data = resvg_py.svg_to_bytes(svg_string=document, skip_system_fonts=True, font_files=fonts)
    return Image.open(io.BytesIO(data)).convert("RGBA")


def paper() -> Image.Image:
    """Warm paper from a 512 px chunk of soft noise that repeats without a seam."""
    side = 512
    random = np.random.default_rng(7)
    rough = np.zeros((side, side))
    for reach, weight in ((2.2, 1.0), (9.0, 0.7), (40.0, 0.5)):
        rough += weight * soft_noise(random, side, reach)
    rough = (rough - rough.min()) / (rough.max() - rough.min())
    levels = np.floor(rough * 12).clip(0, 11).astype(np.uint8)
    tiled = np.tile(levels, (home.HEIGHT * DENSITY // side + 1, home.WIDTH * DENSITY // side + 1))
    dark, light = np.array((240, 229, 207)), np.array((248, 240, 223))
    palette = [dark + (light - dark) * level // 11 for level in range(12)]
    picture = Image.fromarray(tiled[: home.HEIGHT * DENSITY, : home.WIDTH * DENSITY], "P")
    picture.putpalette(np.array(palette, np.uint8).tobytes())
    return picture.convert("RGBA")


def soft_noise(random: np.random.Generator, side: int, reach: float) -> np.ndarray:
    """Noise blurred around the edges of the chunk, so that it repeats; spread 1."""
    spectrum = np.fft.fft2(random.standard_normal((side, side)))
    steps = np.fft.fftfreq(side)
    distance = steps[:, None] ** 2 + steps[None, :] ** 2
    blurred = np.fft.ifft2(spectrum * np.exp(-2 * (np.pi * reach) ** 2 * distance)).real
    spread: np.ndarray = blurred / blurred.std()
    return spread


def png(picture: Image.Image) -> bytes:
    """PNG bytes, in few colours where there are few."""
    colors = picture.getcolors(256)
    alphas = [color[3] for _, color in colors or () if isinstance(color, tuple) and len(color) == 4]
    if colors is not None and all(alpha == 255 for alpha in alphas):
        picture = picture.convert("RGB").quantize(len(colors))
    out = io.BytesIO()
    picture.save(out, "PNG", optimize=True)
    return out.getvalue()


if __name__ == "__main__":
    main()
