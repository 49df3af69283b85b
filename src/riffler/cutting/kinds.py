"""Every kind of output that is made of slices: a line for each room that plans tasks.

A room for kinds: tasks of slices stand in `cutting/`, below `icon/` and the rooms to come, since
what lists all kinds has to know them; the runner and the cache stand above and know none.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

from riffler.cutting import regions, slices
from riffler.icon import icon_task
from riffler.jobs.task import Task
from riffler.sprite import sheet
from riffler.vector import loader, symbols
from riffler.vector import slices as vectors
from riffler.workspace.prepare import Wanted

#: From the wanted slices to the tasks of one kind, in the order in which they are run.
KINDS: tuple[Callable[[Wanted], Iterator[Task[Any]]], ...] = (
    slices.plan,
    vectors.plan,
    regions.plan,
    icon_task.plan,
    sheet.plan,
    symbols.plan,
    loader.plan,
)
