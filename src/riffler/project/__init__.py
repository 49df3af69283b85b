"""A project on disk: riffler.toml, folders, limits."""
