"""An SVG -> a smaller SVG that looks the same: one module a pass, put in order by `tidy`.

A pass takes the `Drawing` and changes its tree; it never looks at pixels. What all of them did
together is held against the original by whoever can draw it (`vector/checked.py`).
"""
