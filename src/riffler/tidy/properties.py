"""Presentation attributes: which are inherited, and what holds when none is said.

SVG 2, appendix G "Property index"; SVG 1.1, appendix N, for those that it had.
"""

from __future__ import annotations

#: Inherited properties and their initial values; None where the surroundings decide.
INHERITED: dict[str, str | None] = {
    "clip-rule": "nonzero",
    "color": None,
    "color-interpolation": "sRGB",
    "color-interpolation-filters": "linearRGB",
    "color-rendering": "auto",
    "cursor": "auto",
    "direction": "ltr",
    "dominant-baseline": "auto",
    "fill": "#000",
    "fill-opacity": "1",
    "fill-rule": "nonzero",
    "font-family": None,
    "font-size": None,
    "font-size-adjust": "none",
    "font-stretch": "normal",
    "font-style": "normal",
    "font-variant": "normal",
    "font-weight": "normal",
    "image-rendering": "auto",
    "letter-spacing": "normal",
    "marker-end": "none",
    "marker-mid": "none",
    "marker-start": "none",
    "paint-order": "normal",
    "pointer-events": "auto",
    "shape-rendering": "auto",
    "stroke": "none",
    "stroke-dasharray": "none",
    "stroke-dashoffset": "0",
    "stroke-linecap": "butt",
    "stroke-linejoin": "miter",
    "stroke-miterlimit": "4",
    "stroke-opacity": "1",
    "stroke-width": "1",
    "text-anchor": "start",
    "text-rendering": "auto",
    "visibility": "visible",
    "word-spacing": "normal",
    "writing-mode": "lr-tb",
}

#: Properties that hold for the element alone, and their initial values.
OWN: dict[str, str | None] = {
    "alignment-baseline": "auto",
    "baseline-shift": "baseline",
    "clip-path": "none",
    "display": "inline",
    "filter": "none",
    "flood-color": "#000",
    "flood-opacity": "1",
    "lighting-color": "#fff",
    "mask": "none",
    "opacity": "1",
    "overflow": None,
    "stop-color": "#000",
    "stop-opacity": "1",
    "text-decoration": "none",
    "unicode-bidi": "normal",
    "vector-effect": "none",
}

PRESENTATION = {**INHERITED, **OWN}

#: What an element does to all inside it at once.
EFFECTS = ("clip-path", "mask", "filter", "opacity")

COLORS = ("fill", "stroke", "color", "stop-color", "flood-color", "lighting-color")

#: Properties of strokes and of text, which mean nothing where there is none.
OF_STROKES = tuple(name for name in INHERITED if name.startswith("stroke-"))
OF_TEXT = (
    "alignment-baseline",
    "baseline-shift",
    "direction",
    "dominant-baseline",
    "font-family",
    "font-size",
    "font-size-adjust",
    "font-stretch",
    "font-style",
    "font-variant",
    "font-weight",
    "letter-spacing",
    "text-anchor",
    "text-decoration",
    "text-rendering",
    "unicode-bidi",
    "word-spacing",
    "writing-mode",
)

#: What of a `style` is kept although no attribute can say it: it changes what is seen.
IN_STYLE = {
    "animation",
    "background",
    "background-color",
    "backdrop-filter",
    "font",
    "font-feature-settings",
    "font-kerning",
    "font-variation-settings",
    "isolation",
    "mask-type",
    "mix-blend-mode",
    "tab-size",
    "text-transform",
    "transform",
    "transform-box",
    "transform-origin",
    "transition",
    "white-space",
    "will-change",
}

#: Attributes that say what an element would do anyway.
DEFAULTS: dict[str, dict[str, str]] = {
    "svg": {
        "x": "0",
        "y": "0",
        "version": "*",
        "baseProfile": "*",
        "zoomAndPan": "magnify",
        "contentScriptType": "*",
        "contentStyleType": "text/css",
        "enable-background": "*",
        "preserveAspectRatio": "xMidYMid meet",
    },
    "rect": {"x": "0", "y": "0"},
    "use": {"x": "0", "y": "0"},
    "image": {"x": "0", "y": "0", "preserveAspectRatio": "xMidYMid meet"},
    "circle": {"cx": "0", "cy": "0"},
    "ellipse": {"cx": "0", "cy": "0"},
    "line": {"x1": "0", "y1": "0", "x2": "0", "y2": "0"},
    "linearGradient": {
        "x1": "0",
        "y1": "0",
        "x2": "1",
        "y2": "0",
        "spreadMethod": "pad",
        "gradientUnits": "objectBoundingBox",
    },
    "radialGradient": {
        "cx": ".5",
        "cy": ".5",
        "r": ".5",
        "fr": "0",
        "spreadMethod": "pad",
        "gradientUnits": "objectBoundingBox",
    },
    "stop": {"offset": "0"},
    "pattern": {
        "x": "0",
        "y": "0",
        "patternUnits": "objectBoundingBox",
        "patternContentUnits": "userSpaceOnUse",
    },
    "clipPath": {"clipPathUnits": "userSpaceOnUse"},
    "mask": {
        "maskUnits": "objectBoundingBox",
        "maskContentUnits": "userSpaceOnUse",
        "x": "-.1",
        "y": "-.1",
        "width": "1.2",
        "height": "1.2",
    },
    "filter": {
        "filterUnits": "objectBoundingBox",
        "primitiveUnits": "userSpaceOnUse",
        "x": "-.1",
        "y": "-.1",
        "width": "1.2",
        "height": "1.2",
    },
    "path": {"pathLength": "*"},
}

#: Shapes that paint by themselves, and what can hold them.
SHAPES = {"path", "rect", "circle", "ellipse", "line", "polyline", "polygon"}
PAINTED = SHAPES | {"use", "image", "text"}
GRAPHICS = SHAPES | {"use", "image", "text", "g", "svg", "a", "switch"}

#: Elements that are only drawn where something refers to them.
RESOURCES = {
    "clipPath",
    "mask",
    "pattern",
    "marker",
    "symbol",
    "linearGradient",
    "radialGradient",
    "filter",
    "defs",
    "cursor",
}
