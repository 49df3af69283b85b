"""The command line: parse, call the core, show the result."""
