"""Outputs as tasks: plain data that says what is to be made, run in order and cached by content.

A *task* is what one file or fact needs (`task.Task`): an *operation*, and what the ledger says of
its result. The operation is a frozen dataclass with a method `run(workspace)`; every one of its
fields counts for its fingerprint, and a `Drawing` among them counts by what would be drawn. It
holds no open file and no pixels, so that it can be sent to another thread, process or machine:
mockups are opened where it runs, by key. Results are frozen dataclasses, too; the cache keeps
any of them under the fingerprint of what made it.
"""
