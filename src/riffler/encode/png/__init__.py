"""Straight RGBA -> PNG bytes: the smallest colour type, searched filters, no needless chunks."""

from riffler.encode.png.chunks import encode, encode_palette

__all__ = ["encode", "encode_palette"]
