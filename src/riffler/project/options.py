"""What options of a command say, checked by the model of a table in riffler.toml."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError

from riffler.errors import RifflerError

Table = TypeVar("Table", bound=BaseModel)


def checked(table: type[Table], values: Mapping[str, Any]) -> Table:
    """The table that options make, those that say nothing left out.

    Raises RifflerError that names the first option that is wrong.
    """
    try:
        return table.model_validate(
            {key: value for key, value in values.items() if value is not None}
        )
    except ValidationError as error:
        first = error.errors()[0]
        where = f"--{first['loc'][0]}: " if first["loc"] else ""
        message = str(first["msg"]).removeprefix("Value error, ").removeprefix("Input ")
        raise RifflerError(f"{where}{message}.") from error
