"""A project, or none: the one way to open mockups, and cutlists with their slices resolved."""

from __future__ import annotations

from riffler.workspace.workspace import MockupKey, Opened, Workspace

__all__ = ["MockupKey", "Opened", "Workspace"]
