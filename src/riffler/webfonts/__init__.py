"""Faces of text -> web fonts: what they may be used for, subsets, style sheet, what stands in."""
