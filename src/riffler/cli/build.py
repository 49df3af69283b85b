"""`riffler build`: templates become pages."""

from __future__ import annotations

from riffler.cli.options import DryRun, Force, Json, Quiet, Verbose

NAME = "build"


def build(
    force: Force = False,
    dry_run: DryRun = False,
    json: Json = False,
    quiet: Quiet = False,
    verbose: Verbose = False,  # noqa: ARG001 - read where errors are shown
) -> None:
    """Build the pages from their templates.

    Also writes a style sheet for the pieces that were cut, and copies styles and fonts.
    """
    from riffler.files import as_typed
    from riffler.project.project import Project
    from riffler.report.screen import Column, Screen, kilobytes, plural
    from riffler.site.build import build as build_site

    project = Project.here()
    done = build_site(project, force=force, dry_run=dry_run)
    screen = Screen(quiet)
    if json:
        screen.json({"build": 1, **done.as_json()})
        return
    changed = {asset.file for asset in done.written}
    assets = sorted([*done.written, *done.unchanged], key=lambda a: (_ORDER[a.role], a.file))
    if assets and not quiet:
        screen.table(
            (Column("file", style="bold"), Column("kind"), Column("bytes", True), Column("")),
            [
                (a.file, a.role, kilobytes(a.bytes), "new" if a.file in changed else "")
                for a in assets
            ],
        )
        screen.say("")
    verb, removed = ("Would write", "would remove") if dry_run else ("Wrote", "removed")
    gone = f", {removed} {len(done.removed)}" if done.removed else ""
    screen.say(
        f"{verb} {len(done.written)} of {plural(len(assets), 'file')} in "
        f"{as_typed(project.out)}{gone}."
    )
    pages = [asset.file for asset in assets if asset.role == "page"]
    if pages and not dry_run:
        first = "index.html" if "index.html" in pages else pages[0]
        screen.say(f"Open {as_typed(project.out / first)} in a browser.")


_ORDER = {"page": 0, "style": 1, "font": 2}
