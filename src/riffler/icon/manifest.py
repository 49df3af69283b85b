"""The web app manifest: what a phone shows beside the icon. W3C Web Application Manifest."""

from __future__ import annotations

import json
from collections.abc import Sequence

from riffler.project.icon_settings import Favicon

#: The file, beside the icons; pages name it, so it may be called anything.
FILE = "app.webmanifest"

#: Short names longer than this are cut off on home screens.
SHORT = 12


def manifest(how: Favicon, name: str, icons: Sequence[tuple[str, int, str]], ground: str) -> bytes:
    """The manifest's JSON. `icons` are files, sides in pixels, and what each is for."""
    short_name = how.short_name or (name if len(name) <= SHORT else name.split()[0])
    values = {
        "name": name,
        "short_name": short_name,
        "start_url": "./",
        "display": "browser",
        "theme_color": how.theme or ground,
        "background_color": ground,
        "icons": [
            {"src": file, "sizes": f"{side}x{side}", "type": "image/png", "purpose": purpose}
            for file, side, purpose in icons
        ],
    }
    return (json.dumps(values, indent=2, ensure_ascii=False) + "\n").encode()
