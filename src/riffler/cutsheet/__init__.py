"""A project -> all that one hands over: pictures, numbers, styles, assets, in one file."""
