"""The names that a drawing of ours may use. SVG 2, appendices F "Element Index" and G."""

from __future__ import annotations

#: Elements that draw, hold, or move what is drawn.
ELEMENTS = frozenset(
    """
    svg g defs symbol use switch a title desc style view
    path rect circle ellipse line polyline polygon text tspan textPath image
    linearGradient radialGradient stop pattern clipPath mask marker filter
    feBlend feColorMatrix feComponentTransfer feComposite feConvolveMatrix feDiffuseLighting
    feDisplacementMap feDistantLight feDropShadow feFlood feFuncA feFuncB feFuncG feFuncR
    feGaussianBlur feImage feMerge feMergeNode feMorphology feOffset fePointLight
    feSpecularLighting feSpotLight feTile feTurbulence
    animate animateMotion animateTransform animateColor set mpath
    """.split()
)

#: Elements that change attributes.
ANIMATIONS = frozenset({"animate", "animateColor", "animateMotion", "animateTransform", "set"})

#: Properties that are attributes too. SVG 2, appendix G; SVG 1.1, appendix N; CSS Masking, Text 4.
_PROPERTIES = """
    alignment-baseline baseline-shift clip clip-path clip-rule color color-interpolation
    color-interpolation-filters color-rendering cursor direction display dominant-baseline
    enable-background fill fill-opacity fill-rule filter flood-color flood-opacity font font-family
    font-feature-settings font-kerning font-size font-size-adjust font-stretch font-style
    font-variant font-variation-settings font-weight glyph-orientation-horizontal
    glyph-orientation-vertical image-rendering inline-size isolation kerning letter-spacing
    lighting-color line-height marker marker-end marker-mid marker-start mask mask-type
    mix-blend-mode opacity overflow paint-order pointer-events shape-rendering solid-color
    solid-opacity stop-color stop-opacity stroke stroke-dasharray stroke-dashoffset stroke-linecap
    stroke-linejoin stroke-miterlimit stroke-opacity stroke-width text-align text-anchor
    text-decoration text-overflow text-rendering text-transform transform transform-box
    transform-origin unicode-bidi vector-effect visibility white-space will-change word-spacing
    writing-mode
    """.split()

#: Attributes of geometry, of gradients and of what is referred to.
_GEOMETRY = """
    x y width height viewBox preserveAspectRatio d points cx cy r rx ry x1 y1 x2 y2 fx fy fr dx dy
    rotate textLength lengthAdjust startOffset method spacing side path pathLength offset
    gradientUnits gradientTransform spreadMethod patternUnits patternContentUnits patternTransform
    clipPathUnits maskUnits maskContentUnits filterUnits primitiveUnits filterRes markerUnits
    markerWidth markerHeight refX refY orient
    """.split()

#: Attributes of filters.
_FILTERS = """
    in in2 result stdDeviation mode type values operator k1 k2 k3 k4 edgeMode order kernelMatrix
    divisor bias targetX targetY preserveAlpha kernelUnitLength surfaceScale diffuseConstant
    specularConstant specularExponent azimuth elevation pointsAtX pointsAtY pointsAtZ z
    limitingConeAngle baseFrequency numOctaves seed stitchTiles xChannelSelector yChannelSelector
    scale radius tableValues slope intercept amplitude exponent
    """.split()

#: Attributes of animations.
_TIMES = """
    attributeName attributeType begin dur end min max restart repeatCount repeatDur calcMode values
    keyTimes keySplines keyPoints from to by additive accumulate origin
    """.split()

#: Attributes of every element, of links and of style sheets.
_COMMON = """
    id class style lang tabindex role focusable media version baseProfile zoomAndPan
    contentStyleType contentScriptType systemLanguage requiredExtensions requiredFeatures target rel
    hreflang
    """.split()

#: Attributes that an animation may change: none that leads anywhere, names or styles anything.
ANIMATABLE = frozenset({"x", *_PROPERTIES, *_GEOMETRY, *_FILTERS, "class"})

ATTRIBUTES = frozenset({*_PROPERTIES, *_GEOMETRY, *_FILTERS, *_TIMES, *_COMMON})

#: Functions of values that refer to nothing. CSS Values 4, Color 5, Transforms 2, Easing 2,
#: Filter Effects 1, Shapes 1; of queries, Conditional 4.
FUNCTIONS = frozenset(
    """
    rgb rgba hsl hsla hwb lab lch oklab oklch color color-mix light-dark device-cmyk
    var env calc min max clamp round mod rem sin cos tan asin acos atan atan2 pow sqrt hypot log exp
    abs sign
    matrix matrix3d translate translatex translatey translatez translate3d scale scalex scaley
    scalez scale3d rotate rotatex rotatey rotatez rotate3d skew skewx skewy perspective
    cubic-bezier steps linear
    blur brightness contrast drop-shadow grayscale hue-rotate invert opacity saturate sepia
    path polygon circle ellipse inset rect xywh
    linear-gradient radial-gradient conic-gradient repeating-linear-gradient
    repeating-radial-gradient repeating-conic-gradient
    local selector style font-format font-tech not and or
    """.split()
)

#: Rules of a style sheet that hold others, or say a face or what moves.
RULES = frozenset({"media", "supports", "container", "layer", "keyframes", "font-face"})

#: Rules that say nothing in a file that is read as XML and UTF-8.
IDLE = frozenset({"charset", "namespace"})
