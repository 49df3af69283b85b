"""Arguments and options that several commands share."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

#: Exit codes: findings, wrong use or input, our own mistake, Ctrl-C.
FINDINGS, WRONG, OURS, STOPPED = 1, 2, 3, 130

Mockup = Annotated[Path, typer.Argument(metavar="MOCKUP", help="OpenRaster, SVG or flat picture.")]
MaybeMockup = Annotated[
    Path | None, typer.Argument(metavar="MOCKUP", help="OpenRaster, SVG or flat picture.")
]
Quiet = Annotated[bool, typer.Option("--quiet", "-q", help="Say only what is asked for.")]
Verbose = Annotated[
    bool, typer.Option("--verbose", "-v", help="Show where Riffler itself went wrong, if it does.")
]
Json = Annotated[bool, typer.Option("--json", help="Print the result as JSON, for programs.")]
Force = Annotated[bool, typer.Option("--force", help="Write over files that were changed by hand.")]
DryRun = Annotated[
    bool, typer.Option("--dry-run", help="Say what would be written; write nothing.")
]
