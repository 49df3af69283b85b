"""Changes one thing that a person may write, and runs the program: no traceback, no end without one.

    python -m benchmarks.mutants [COUNT] [SEED]

What changes is sound as XML, TOML or text: an attribute, an element, a value, a statement. So most
get past the first look at them, and reach what fuzz.py with its broken bytes does not.
"""

from __future__ import annotations

import copy
import os
import random
import resource
import shutil
import signal
import sys
import tempfile
import time
import tomllib
from collections import Counter
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any, TypeAlias

import tomlkit
from lxml import etree

from benchmarks.staged import project, start, void, warm

#: What a run may take beside what it takes when nothing is changed.
SECONDS, MEGABYTES = 5.0, 500

#: Where what was found is kept.
FOUND = Path(__file__).parent / ".cache/mutants"

COMMANDS = (
    "look mockups/page.ora", "look mockups/drawn.svg --fonts --grid", "look mockups/drawn.svg --at 50,50",
    "draft mockups/drawn.svg -o cuts/new.toml", "draft --add mockups/page.ora", "survey", "cut",
    "build", "mark edge --guide-x left", "mark extra --around hill --grow 3 --alt x", "cut mockups/drawn.svg --only cards/card-2 -o card.png",
    "inlay sun", "weigh sun",
    "vector mockups/drawn.svg -o tidied.svg", "vector mockups/drawn.svg -o page.svg --paint custom --keep-names",
    "loader mockups/drawn.svg -o mark --name l", "sprite mockups/drawn.svg --symbols -o symbols",
    "tokens mockups/drawn.svg", "fonts mockups/drawn.svg", "measure", "tokens",
    "rough --print mockups/page.ora", "changes", "changes --take", "favicon", "check",
    "changes mockups/drawn.svg mockups/page.ora", "sheet -o sheet.html",
)  # fmt: skip

DRAWN = """\
<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="300" height="240" viewBox="0 0 300 240">
<title>Drawn</title>
<style>.warm { fill: #c33; stroke: none } g > .soft:first-child { opacity: .5 } text { font: 14px sans-serif }</style>
<defs>
<linearGradient id="fade" x1="0" y1="0" x2="1" y2="0" gradientTransform="rotate(20)"><stop offset="0" stop-color="#fff"/><stop offset="100%" stop-color="#369" stop-opacity=".4"/></linearGradient>
<radialGradient id="sun" href="#fade" r="50%"/>
<pattern id="dots" width="10" height="10" patternUnits="userSpaceOnUse" patternTransform="scale(1.5)"><circle cx="5" cy="5" r="2"/></pattern>
<clipPath id="round"><circle cx="60" cy="60" r="40"/></clipPath>
<mask id="half" maskUnits="objectBoundingBox" x="0" y="0" width="1" height="1"><rect width="100" height="200" fill="url(#fade)"/></mask>
<filter id="blur" x="-20%" y="-20%" width="140%" height="140%"><feGaussianBlur stdDeviation="2 3"/><feOffset dx="2" dy="2"/><feMerge><feMergeNode/><feMergeNode in="SourceGraphic"/></feMerge></filter>
<marker id="tip" markerWidth="6" markerHeight="6" orient="auto"><path d="M0 0 L6 3 L0 6 z"/></marker>
<symbol id="star" viewBox="0 0 24 24"><path d="M12 2l3 7h7l-6 4 2 8-6-5-6 5 2-8-6-4h7z"/></symbol>
</defs>
<g id="page"><rect width="300" height="240" fill="#f7f1e3"/></g>
<g id="head" transform="translate(10 10)"><rect class="warm" width="280" height="40" rx="6"/><text x="12" y="26" letter-spacing="1" xml:space="preserve">Fern <tspan dx="4" font-weight="700">hollow</tspan></text></g>
<g id="cards" transform="matrix(1 0 0 1 10 70)">
<g id="card-1"><rect width="80" height="60" fill="url(#fade)" filter="url(#blur)"/><use href="#star" x="20" y="10" width="40" height="40"/></g>
<g id="card-2" transform="translate(100,0)"><rect class="soft" width="80" height="60" fill="url(#dots)" stroke="#333" stroke-dasharray="4 2" stroke-width="2pt"/></g>
<g id="card-3" transform="translate(200 0)" mask="url(#half)"><ellipse cx="40" cy="30" rx="40" ry="30" fill="url(#sun)"/></g>
</g>
<g id="art" clip-path="url(#round)" style="mix-blend-mode: multiply; isolation: isolate"><path d="M20 20 C 40 10, 90 10, 100 60 S 60 120 20 100 Q 10 60 20 20 Z" fill-rule="evenodd" marker-end="url(#tip)"/><polyline points="20,20 60,90 100,20" fill="none" stroke="currentColor" color="teal" stroke-linejoin="round"/></g>
<svg x="200" y="150" width="80" height="60" viewBox="0 0 40 30" preserveAspectRatio="xMidYMid slice"><image width="40" height="30" href="data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg=="/></svg>
<switch><g systemLanguage="de"><text x="10" y="220">Honig</text></g><g><text x="10" y="220" text-anchor="start" textLength="60">Honey</text></g></switch>
</svg>
"""

CUTLIST = """\
# Written by hand.
mockup = "../mockups/page.ora"
density = 1
words = ["lake"]
include = ["_shared.toml"]
[guides.x]
left = 20
right = "left + 120"
[guides.y]
top = 10
[grid.col]
count = 4
gutter = 8
from = "left"
to = "right"
[defaults]
alt = "A shape"
hide = ["kind:words"]
[group.icons]
role = "icon"
frame = [64, 64]
balance = "weight"
[slice.sun]
only = ["sun"]
save = ["png", "webp"]
quality = "fair"
sizes = ["1x"]
[slice.hill]
in = "icons"
only = ["hill"]
[slice.mid]
x = ["col-1", "col-3"]
y = ["top", 100]
save = ["auto"]
budget = "30 kB"
trim = true
grow = 2
link = "index"
[slice.mid.state.hover]
show = ["lake"]
[slice.mid.accept]
overlap = "meant"
[slice.row]
at = [10, 100, 20, 20]
times = { count = 3, x = 24, y = 0, columns = 3 }
alts = ["a", "b", "c"]
[slice.band]
at = [0, 0, 64, 64]
role = "tile"
repeat = "both"
soften = 8
[slice.frame]
at = [80, 20, 80, 70]
role = "panel"
caps = { top = 10, bottom = 10 }
middle = "stretch"
[slice.opening]
only = ["sun"]
role = "hero"
frame = [180, 80]
place = "center"
focal = [40, 30]
[slice.words]
role = "words"
at = [10, 100, 80, 30]
[slice.beside]
like = "words"
by = [90, 0]
"""

SHARED = """\
[slice.shared]
around = ["lake"]
grow = 1
"""

SETTINGS = """\
url-prefix = ""
[site]
name = "Fernhollow"
[folders]
out = "out"
[defaults]
quality = 80
ground = "#f4ead6"
[favicon]
slice = "hill"
[limits]
pixels = 40_000_000
"""

PAGES = {
    "_shell.html": """\
<!doctype html>
<html lang="en"><head><title>{{ site.name }} {{ page }}</title>
<link rel="stylesheet" href="styles/page.css">{{ head() if head is defined }}</head>
<body>{% block main %}{% endblock %}{% include "_foot.html" %}</body></html>
""",
    "_foot.html": "<p>{{ page|upper }}</p>\n",
    "index.html": """\
{% extends "_shell.html" %}
{% macro card(name, text="x") %}<li>{{ inlay(name, class="card") }} {{ text }}</li>{% endmacro %}
{% block main %}
<h1>{{ page|title }}</h1>
<ul>{% for name in ["sun", "hill"] %}{{ card(name, loop.index) }}{% else %}none{% endfor %}</ul>
{% set total = 2 * 3 %}<p>{{ total }} {{ "%.2f"|format(1.5) }} {{ [1, 2]|join(", ") }}</p>
<a href="{{ link("about") }}">About</a> {{ inlay("mid") if total > 5 else "" }}
<pre>  kept
  as is</pre>
{% endblock %}
""",
    "about.html": '{% extends "_shell.html" %}{% block main %}<p>{{ "a"|replace("a", "b") }}</p>{% endblock %}\n',
}

#: What values become, whatever they were.
NUMBERS = ("0", "-1", "1", "0.5", "-0.001", "1e-9", "3", "7", "64", "1000", "65536", "1e9", "-1e9", "1e38", "nan", "inf",
           "99999999999999999999", "1e999", "50%", "2pt", "3mm", "1in", "10em", "1ex", "1rem", "5vw")  # fmt: skip
PLAIN = ("0", "-1", "1", "0.5", "-0.25", "3", "7", "20", "64", "200", "1000")
WORDS = ("", " ", "none", "inherit", "auto", "url(#fade)", "url(#gone)", "#page", "red", "#12", "rgb(300,-1,0)", "currentColor",
         "a b c", "a,b", "*", "**", "ä\N{SNOWMAN}", "\N{RIGHT-TO-LEFT OVERRIDE}x", "../x", "/etc/passwd", "javascript:x", "x" * 300,
         "kind:words", "sun", "hill/*", "col-9", "left + 1e9", "col-1 - col-2", "M0 0 L 1e9 1e9", "rotate(45)", "scale(0)")  # fmt: skip
VALUES: tuple[object, ...] = (
    0, -1, 1, 3, 64, 5000, 10**6, 10**12, -(10**9), 0.5, 1e-9, 1e30, float("nan"), float("inf"), True, False, "", "a", "sun", "left",
    "col-1", "left + 3", "right - col-2", "nope", "../../x", "x" * 260, "ä b", "2x", "640w", "png", "auto", "#12345678", [], [1], [0, 0, 0, 0],
    [10, 10, 1e9, 5], ["sun", "hill"], ["**"], [[1]], {}, {"count": 3}, {"count": 999, "x": 1}, {"top": 99}, {"x": {"y": {}}},
)  # fmt: skip

#: Words that may stand for each other.
VOCABULARY = (
    ("picture", "words", "tile", "panel", "icon", "hero"), ("left", "center", "right"), ("stretch", "repeat"), ("x", "y", "both"),
    ("clear", "fair"), ("box", "weight"), ("png", "jpeg", "webp", "avif", "gif", "auto"), ("1x", "2x", "1.5x", "640w", "9w", "20000w"),
    ("sun", "hill", "lake", "page", "**", "*", "kind:pixels", "s?n"), ("left", "right", "col-1", "col-3", "col-4", "left + 40", "right - 8"),
    ("top", "top + 30"), ("words", "shared", "row-1", "frame", "mid"), ("index", "about", "#x", "https://example.org/?a=1&b"),
    ("icons",), ("30 kB", "1 B", "9 MB"),
)  # fmt: skip

STATEMENTS = (
    "{{ inlay('hill', alt=total) }}", "{{ link(3) }}", "{{ 1 // 0 }}", "{{ page * 10 ** 9 }}", "{{ 'a'.join(range(10)|map('string')) }}",
    "{% for i in range(10 ** 5) %}x{% endfor %}", "{% for i in range(10 ** 9) %}{% endfor %}", "{{ ''|center(10 ** 9) }}",
    "{{ range(10 ** 7)|list|length }}", "{% include page ~ '.html' %}", "{% include ['_gone.html', '_foot.html'] %}", "{{ self.main() }}",
    "{{ ''.__class__ }}", "{{ page.__init__.__globals__ }}", "{{ site }}", "{{ inlay }}", "{{ inlay('sun').upper() }}", "{{ [1]|sort(attribute='x') }}",
    "{{ 'x'|indent(width=3) }}", "{{ ''|wordwrap(0) }}", "{{ cycler() }}", "{{ lipsum(n=3) }}", "{{ dict(a=1)|tojson }}", "{% set x = namespace(a=1) %}{{ x.a }}",
    "{% raw %}{{ x }}{% endraw %}", "{% if page is divisibleby 0 %}{% endif %}", "{{ 9 ** 999 }}", "{{ -1 ** 0.5 }}", "{% call card('sun') %}{% endcall %}",
    "{% filter upper %}a{% endfilter %}", "{{ caller }}", "{{ loop }}", "{{ varargs }}", "{% import '_foot.html' as foot %}{{ foot }}", "{{ 'é\N{LINE SEPARATOR}'|e }}",
    "{{ inlay('sun', loading=none) }}", "{{ inlay() }}", "{{ inlay(['sun']) }}", "{{ inlay('sun', sizes=[1]) }}", "{{ link('#x') }}", "{{ link('javascript:x') }}",
    "<pre>\n", "</textarea>", "<script>a < b", "<!--", "{# {% #}", "{{ page[::0] }}", "{{ page[10**30] }}", "{{ {}['x'] }}", "{{ (1,)|batch(0)|list }}",
    "{{ [1, 2]|slice(0)|list }}", "{{ 3|round(10 ** 9) }}", "{{ 'a'|filesizeformat }}", "{{ 1|xmlattr }}", "{{ '%s'|format }}", "{{ '%999999999d'|format(1) }}",
    "{% block main %}{% endblock %}", "{% extends page ~ '.html' %}", "{{ super() }}", "{% set page = 3 %}", "{% do 1 %}", "{% break %}", "{{",
)  # fmt: skip

Change: TypeAlias = Callable[[Path, random.Random], None]


@dataclass(frozen=True)
class Ended:
    """How a run ended, its seconds of processor, and what it took beside a run of nothing."""

    code: int
    said: str
    seconds: float
    megabytes: float


def draw(root: Path) -> Path:
    """The project that is changed: something of all that can be written."""
    project(root)
    texts = {
        "cuts/page.toml": CUTLIST,
        "cuts/_shared.toml": SHARED,
        "riffler.toml": SETTINGS,
        "mockups/drawn.svg": DRAWN,
    }
    for name, text in {**texts, **{f"pages/{name}": text for name, text in PAGES.items()}}.items():
        (root / name).write_text(text)
    return root  # fmt: skip


def change_drawing(root: Path, chance: random.Random) -> None:
    """Attributes of an SVG changed, taken, given; elements moved, doubled, taken."""
    path = root / "mockups/drawn.svg"
    tree = etree.fromstring(path.read_bytes())
    _change_elements(tree, chance)
    path.write_bytes(etree.tostring(tree))


def change_layers(root: Path, chance: random.Random) -> None:
    """The same with the stack of an OpenRaster file."""
    import io
    import zipfile

    path = root / "mockups/page.ora"
    with zipfile.ZipFile(path) as archive:
        files = {name: archive.read(name) for name in archive.namelist()}
    tree = etree.fromstring(files["stack.xml"])
    _change_elements(tree, chance)
    files["stack.xml"] = etree.tostring(tree)
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        for name, data in files.items():
            archive.writestr(name, data)
    path.write_bytes(out.getvalue())


def _change_elements(tree: etree._Element, chance: random.Random) -> None:
    for _ in range(chance.choice((1, 1, 1, 2, 5))):
        elements = [element for element in tree.iter() if isinstance(element.tag, str)]
        element = chance.choice(elements)
        match chance.randrange(10):
            case 0 | 1 | 2 | 3 | 4 | 5 if element.attrib:
                name = chance.choice(sorted(element.attrib))
                element.set(name, _respoken(element.get(name, ""), chance))
            case 6:
                other = chance.choice(elements)
                for name in chance.sample(sorted(other.attrib), min(2, len(other.attrib))):
                    element.set(name, other.get(name, ""))
            case 7 if element.attrib:
                del element.attrib[chance.choice(sorted(element.attrib))]
            case 8:
                chance.choice(elements).append(copy.deepcopy(element))
            case _ if element is not tree:
                parent = element.getparent()
                assert parent is not None
                parent.remove(element)


def _respoken(value: str, chance: random.Random) -> str:
    """Another value, or this one with one of its words or numbers changed."""
    import re

    if chance.random() < 0.2:
        return chance.choice(WORDS)
    numbers = list(re.finditer(r"-?\d*\.?\d+", value))
    if not numbers:
        return chance.choice((*WORDS, *NUMBERS))
    found = chance.choice(numbers)
    other = chance.choice(NUMBERS if chance.random() < 0.3 else PLAIN)
    return value[: found.start()] + other + value[found.end() :]


def change_settings(root: Path, chance: random.Random) -> None:
    """Values of a cutlist, of what it includes, or of riffler.toml."""
    path = root / chance.choice(("cuts/page.toml",) * 6 + ("cuts/_shared.toml", "riffler.toml"))
    document: Any = tomllib.loads(path.read_text())
    for _ in range(chance.choice((1, 1, 1, 2, 4))):
        values = list(_values(document))
        if not values:
            break
        table, key = chance.choice(values)
        match chance.randrange(14):
            case 0:
                del table[key]
            case 1:
                other, name = chance.choice(values)
                table[key] = copy.deepcopy(other[name])
            case 2 if isinstance(table, dict):
                other, name = chance.choice(values)
                table[name if isinstance(name, str) else "at"] = copy.deepcopy(other[name])
            case 3 if isinstance(table, dict):
                table[
                    chance.choice(("at", "x", "like", "role", "only", "times", "sizes", "a.b", ""))
                ] = copy.deepcopy(table[key])
            case _:
                table[key] = _other(copy.deepcopy(table[key]), chance)
    path.write_text(tomlkit.dumps(document))  # fmt: skip


def _other(value: Any, chance: random.Random) -> Any:  # noqa: ANN401 - whatever TOML holds
    """Another value: most often one that could stand there."""
    if chance.random() < 0.15:
        return chance.choice(VALUES)
    match value:
        case bool():
            return not value
        case int() | float():
            near = (
                value + 1,
                value - 1,
                value * 2,
                -value,
                value // 2,
                0,
                1,
                0.5,
                3,
                64,
                1000,
                10**6,
            )
            return chance.choice(near)
        case str():
            kin = [words for words in VOCABULARY if value in words]
            return chance.choice(kin[0]) if kin else _respoken(value, chance)
        case list() if value:
            at = chance.randrange(len(value))
            changed = chance.choice(([_other(value[at], chance)], [], [value[at]] * 2, [value[at]]))
            return [*value[:at], *changed, *value[at + 1 :]]
        case dict() if value:
            key = chance.choice(sorted(value))
            return {**value, key: _other(value[key], chance)}
    return chance.choice(VALUES)


def _values(table: Any) -> Iterator[tuple[Any, Any]]:  # noqa: ANN401 - whatever TOML holds
    """Every value in a document, as what holds it and the key."""
    keys = list(table) if isinstance(table, dict) else range(len(table))
    for key in keys:
        yield table, key
        if isinstance(table[key], dict | list):
            yield from _values(table[key])


def change_page(root: Path, chance: random.Random) -> None:
    """Statements put into templates, taken out, or swapped."""
    path = root / "pages" / chance.choice(sorted(PAGES))
    text = path.read_text()
    for _ in range(chance.choice((1, 1, 2, 4))):
        import re

        places = [found.start() for found in re.finditer(r"{[{%]|<|$", text)]
        at = chance.choice(places)
        if chance.random() < 0.8:
            text = text[:at] + chance.choice(STATEMENTS) + text[at:]
        else:
            text = text[:at] + text[chance.choice(places) :]
    path.write_text(text)


def run(words: str, root: Path) -> Ended:
    """A run in a fork, ended when it takes far too long."""
    said = root.parent / "said.txt"
    began = time.perf_counter()
    number = start(words, root, said, void)
    while True:
        done, status, used = os.wait4(number, os.WNOHANG)
        if done:
            break
        if time.perf_counter() - began > 12 * SECONDS:
            os.kill(number, signal.SIGKILL)
        time.sleep(0.002)
    own = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    code = os.waitstatus_to_exitcode(status)
    text = said.read_text(errors="replace")
    seconds = used.ru_utime + used.ru_stime  # whatever else the machine does
    return Ended(code, text, seconds, max(0, used.ru_maxrss - own) / 1000)


#: What is changed, and the commands that look at it.
CHANGES: tuple[tuple[Change, tuple[int, ...]], ...] = (
    (change_drawing, (1, 2, 3, 10, *range(13, 19), 26)),
    (change_layers, (0, 4, 5, 6, 9, 19, 20, 21, 22, 23, 26, 27)),
    (change_settings, (4, 5, 6, 7, 8, 9, 11, 12, 19, 20, 21, 23, 24, 25, 27)),
    (change_page, (7, 25)),
)


def main(count: int = 3000, seed: int = 1) -> int:
    """Run `count` cases; returns how many were findings."""
    warm()
    tally: Counter[str] = Counter()
    past: Counter[str] = Counter()
    slowest, highest, findings = 0.0, 0.0, 0
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name).resolve()
        ready, root = draw(folder / "ready"), folder / "p"
        run("cut -q", ready)
        run("build -q", ready)
        for case in range(count):
            chance = random.Random(f"{seed} {case}")
            shutil.rmtree(root, ignore_errors=True)
            shutil.copytree(ready, root)
            change, commands = CHANGES[case % len(CHANGES)]
            change(root, chance)
            words = COMMANDS[chance.choice(commands)]
            if words == "build" and change is change_settings:
                run("cut -q", root)
            ended = run(words, root)
            slowest, highest = max(slowest, ended.seconds), max(highest, ended.megabytes)
            tally[f"exit {ended.code}"] += 1
            past[change.__name__] += ended.code in (0, 1)
            is_fine = ended.code in (0, 1, 2) and "Traceback" not in ended.said and ended.said
            if not is_fine or ended.seconds > SECONDS or ended.megabytes > MEGABYTES:
                findings += 1
                kept = FOUND / f"{seed}-{case}"
                shutil.rmtree(kept, ignore_errors=True)
                shutil.copytree(root, kept)
                print(
                    f"{case} {change.__name__}, {words}: exit {ended.code}, {ended.seconds:.1f} s, "
                    f"{ended.megabytes:.0f} MB\n{ended.said[-700:]}",
                    flush=True,
                )
    print(
        f"{count} cases: {dict(tally)}; past the refusal {dict(past)}, in all {past.total() / count:.0%}; "
        f"slowest {slowest:.1f} s, most {highest:.0f} MB; {findings} findings"
    )
    return findings


if __name__ == "__main__":
    sys.exit(1 if main(*(int(argument) for argument in sys.argv[1:3])) else 0)
