"""An SVG file -> a Mockup whose layers are its groups and elements."""

from __future__ import annotations

from riffler.mockup.svg.document import SvgDocument
from riffler.mockup.svg.layers import read

__all__ = ["SvgDocument", "read"]
