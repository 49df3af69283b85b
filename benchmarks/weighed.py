"""What weighing and cutting take beside encoding each file once, in processor time. By hand.

    python -m benchmarks.weighed [ROUNDS]

In turn: `weigh` of the example's banner as a whole process against nothing but encoding each file
that it shows once, by the same encoder at the same effort; and a `cut` of the example from nothing
against nothing but encoding each different picture of it once.
"""

from __future__ import annotations

import json
import resource
import shutil
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterable
from pathlib import Path

from riffler import demo
from riffler.color import Bytes
from riffler.encode import gif, jpeg, png, webp
from riffler.encode.avif import Avif
from riffler.encode.hidden import filled
from riffler.encode.palette import Counted, palette


def once(straight: Bytes, form: str, setting: dict[str, object]) -> bytes:
    """A picture as the file that has this setting, made without looking for it."""
    quality = int(setting.get("quality", 0))  # type: ignore[call-overload]
    said = {key: str(value) for key, value in setting.items()}
    if "colors" in setting:
        found = palette(Counted.of(straight), int(said["colors"]), dither="dither" in said)
        if form == "gif":
            return gif.encode(found.colors, found.indexes)
        if form == "png":
            return png.encode_palette(found.colors, found.indexes)
        return webp.lossless(found.straight)
    match form:
        case "png":
            return png.encode(straight)
        case "gif":
            found = palette(Counted.of(straight), gif.MOST)
            return gif.encode(found.colors, found.indexes)
        case "jpeg":
            return jpeg.encode(filled(straight), quality, said["tables"], said["hues"])
        case "avif":
            chosen = {key: said[key] for key in ("hues", "alpha", "effort") if key in said}
            return Avif(**chosen).best(filled(straight), quality)  # type: ignore[arg-type]
    if quality:
        alpha = webp.COARSE if said.get("alpha") == "coarse" else webp.FINE
        return webp.lossy(filled(straight), quality, alpha)
    pixels = webp.rounded(straight, int(said["steps"])) if "steps" in setting else straight
    return webp.lossless(pixels)


def encode_shown(folder: Path, names: Iterable[str], files: list[dict[str, object]]) -> None:
    """Open slices, encode each file that is said of them once, and print what that took."""
    from riffler.cutting.sources import sources_of
    from riffler.workspace import Workspace

    seconds = 0.0
    sources = {
        one.name: one for one in sources_of(Workspace.around(folder / "riffler.toml"), list(names))
    }
    for file in files:
        straight = sources[str(file["name"])].prepared(str(file["format"]))
        before = time.process_time()
        data = once(straight, str(file["format"]), file["setting"])  # type: ignore[arg-type]
        seconds += time.process_time() - before
        if len(data) != file["bytes"]:
            print(f"{len(data)} bytes instead of {file['bytes']}: {file}", file=sys.stderr)
    print(seconds)


def spent(command: list[str], folder: Path) -> float:
    """Seconds of processor of a whole process with its children."""
    before = resource.getrusage(resource.RUSAGE_CHILDREN)
    subprocess.run(command, cwd=folder, check=True, capture_output=True)
    after = resource.getrusage(resource.RUSAGE_CHILDREN)
    return after.ru_utime - before.ru_utime + after.ru_stime - before.ru_stime


def said_of(assets: Iterable[dict[str, object]]) -> list[dict[str, object]]:
    """The pictures of pixels in a ledger, each different file once."""
    found = {
        str(one["sha256"]): {**one, "name": one["slice"]}
        for one in assets
        if one["kind"] == "cut" and one["format"] != "svg" and "state" not in one
    }
    return list(found.values())


def main(rounds: int = 5) -> None:
    """Both ratios, medians of so many rounds."""
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name) / "site"
        shutil.copytree(Path(str(demo.__file__)).parent / "fernhollow", folder)
        riffler = [sys.executable, "-m", "riffler"]
        said = subprocess.run(
            [*riffler, "weigh", "banner", "--json"], cwd=folder, check=True, capture_output=True
        )
        shown = [
            {"name": "banner", **one} for one in json.loads(said.stdout)["pictures"][0]["files"]
        ]
        subprocess.run([*riffler, "cut"], cwd=folder, check=True, capture_output=True)
        ledger = json.loads((folder / "out/ledger.json").read_bytes())["assets"]
        made = said_of(ledger)
        for what, command, files in (
            ("weigh banner", [*riffler, "weigh", "banner"], shown),
            ("cut of the example", [*riffler, "cut", "--force"], made),
        ):
            note = Path(name) / "files.json"
            note.write_text(json.dumps(files))
            plain = [sys.executable, "-m", "benchmarks.weighed", str(folder), str(note)]
            ratios = []
            for _ in range(rounds):
                if command[3] == "cut":
                    shutil.rmtree(folder / ".riffler", ignore_errors=True)
                    shutil.rmtree(folder / "out", ignore_errors=True)
                ours = spent(command[: 4 + (command[3] == "weigh")], folder)
                done = subprocess.run(plain, check=True, stdout=subprocess.PIPE)
                theirs = float(done.stdout)
                ratios.append(ours / theirs)
                print(f"{what}: {ours:.2f} s, encoding once {theirs:.2f} s", flush=True)
            print(f"{what}: {statistics.median(ratios):.2f}, {len(files)} files")


if __name__ == "__main__":
    if len(sys.argv) == 3:
        listed = json.loads(Path(sys.argv[2]).read_text())
        encode_shown(Path(sys.argv[1]), sorted({one["name"] for one in listed}), listed)
    else:
        main(*map(int, sys.argv[1:]))
