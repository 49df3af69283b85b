"""Known pages -> mockups of them as a browser shows them, and how near other pages come to them.

A browser lays out a page of `known_pages`; what it shows is written as a layered SVG. What is made
of that mockup is asked for the same things: lines of text, pictures, plates, meaning, order.
"""

from __future__ import annotations

import re
from itertools import pairwise
from pathlib import Path
from typing import Any
from xml.sax.saxutils import escape

from playwright.sync_api import Page

#: How far something may be off, in CSS pixels; the widths at which pages must not scroll sideways.
NEAR, WIDTHS = 2, (375, 600, 960, 1440)

SEEN = """() => {
  const lines = [], boxes = [], arts = [], marks = [], heads = [], lists = [];
  const shown = e => e.getClientRects().length > 0;
  const rect = b => [b.x + scrollX, b.y + scrollY, b.width, b.height];
  const texts = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  while (texts.nextNode()) {
    const node = texts.currentNode, text = node.textContent;
    if (!text.trim() || node.parentElement.closest('svg,style')) continue;
    const range = document.createRange(), style = getComputedStyle(node.parentElement);
    let line = null;
    for (let i = 0; i < text.length; i++) {
      if (/\\s/.test(text[i])) { if (line) line.text += ' '; continue; }
      range.setStart(node, i); range.setEnd(node, i + 1);
      const b = range.getBoundingClientRect(), middle = b.y + b.height / 2;
      if (!line || Math.abs(line.middle - middle) > b.height / 2) {
        line = {text: '', x: b.x, middle, top: b.y, height: b.height, node: lines.length};
        line.style = {size: parseFloat(style.fontSize), family: style.fontFamily.split(',')[0],
          weight: style.fontWeight, color: style.color, spacing: style.letterSpacing};
        lines.push(line);
      }
      line.text += text[i]; line.right = b.right;
    }
  }
  for (const e of document.querySelectorAll('input'))
    { const b = e.getBoundingClientRect(), c = getComputedStyle(e);
      lines.push({text: e.placeholder, hint: 1, x: b.x + parseFloat(c.paddingLeft) + parseFloat(c.borderLeftWidth),
        middle: b.y + b.height / 2}); }
  for (const e of document.querySelectorAll('body, body *')) {
    if (e.closest('svg') || !shown(e)) continue;
    const c = getComputedStyle(e), b = e.getBoundingClientRect();
    if (c.backgroundColor !== 'rgba(0, 0, 0, 0)' || c.backgroundImage !== 'none' ||
        c.borderTopWidth !== '0px' && c.borderBottomWidth !== '0px')
      boxes.push({rect: rect(b), color: c.backgroundColor, image: c.backgroundImage,
        radius: parseFloat(c.borderTopLeftRadius), border: parseFloat(c.borderTopWidth),
        line: c.borderTopColor, bottom: parseFloat(c.borderBottomWidth)});
  }
  for (const e of document.querySelectorAll('svg[data-art], img'))
    if (shown(e)) arts.push({rect: rect(e.getBoundingClientRect()), svg: e.outerHTML, name: e.dataset.art});
  for (const e of document.querySelectorAll('header,nav,main,aside,footer'))
    marks.push(e.tagName.toLowerCase());
  for (const e of document.querySelectorAll('h1,h2,h3,h4'))
    heads.push([Number(e.tagName[1]), e.innerText.replace(/\\s+/g, ' ').trim()]);
  for (const e of document.querySelectorAll('ul')) lists.push(e.children.length);
  return {lines, boxes, arts, marks, heads, lists, height: document.documentElement.scrollHeight};
}"""

#: The tree of what a page shows, in the order in which it is painted, for the mockup.
TREE = """() => {
  const rect = b => [b.x, b.y, b.width, b.height];
  const walk = e => {
    const c = getComputedStyle(e), b = e.getBoundingClientRect(), out = [];
    if (e.tagName === 'svg') return {name: e.dataset.art || 'art', rect: rect(b), svg: e.outerHTML};
    const flat = c.backgroundColor !== 'rgba(0, 0, 0, 0)', image = c.backgroundImage;
    if (flat || image !== 'none' || c.borderTopWidth !== '0px')
      out.push({name: 'plate', rect: rect(b), color: c.backgroundColor, image,
        radius: parseFloat(c.borderTopLeftRadius), border: parseFloat(c.borderTopWidth),
        line: c.borderTopColor, all: c.borderBottomWidth !== '0px'});
    for (const n of e.childNodes) {
      if (n.nodeType === 1 && n.tagName !== 'STYLE') out.push(walk(n));
      if (n.nodeType === 3 && n.textContent.trim()) {
        const lines = [], range = document.createRange(), t = n.textContent;
        for (let i = 0; i < t.length; i++) {
          if (/\\s/.test(t[i])) { if (lines.length) lines.at(-1).text += ' '; continue; }
          range.setStart(n, i); range.setEnd(n, i + 1);
          const r = range.getBoundingClientRect();
          if (!lines.length || Math.abs(lines.at(-1).top - r.y) > r.height / 2)
            lines.push({text: '', x: r.x, top: r.y, height: r.height});
          lines.at(-1).text += t[i];
        }
        out.push({name: 'text', lines, size: parseFloat(c.fontSize), family: c.fontFamily,
          weight: c.fontWeight, color: c.color});
      }
    }
    return {name: e.dataset.rep || e.tagName.toLowerCase(), parts: out};
  };
  return walk(document.body);
}"""

#: How far faces of the pages rise above the baseline, of what a browser makes a line's content box.
_RISE = {"Figtree": 0.95 / (0.95 + 0.25), "Fraunces": 0.978 / (0.978 + 0.255)}


class _Drawing:
    """A mockup being written; `is_unnamed` calls every layer by a number."""

    def __init__(self, *, is_unnamed: bool) -> None:
        self._is_unnamed, self._count, self._ids = is_unnamed, 0, dict[str, int]()
        self.defs: list[str] = []

    def of(self, node: dict[str, Any]) -> str:
        """The SVG of a node and all in it."""
        name = self._name(node["name"])
        if "svg" in node:
            x, y, *_ = node["rect"]
            inner = node["svg"].split(">", 1)[1].rsplit("<", 1)[0]
            fill = node["svg"].split(">", 1)[0].partition('fill="')[2].partition('"')[0]
            shown = f' fill="{fill}"' if fill else ""
            scale = node["rect"][2] / float(node["svg"].partition('viewBox="0 0 ')[2].split()[0])
            return (
                f'<g id="{name}" transform="translate({x} {y}) scale({scale})"{shown}>{inner}</g>'
            )
        if "lines" in node:
            return self._text(node, name)
        if "parts" in node:
            inner = "".join(self.of(part) for part in node["parts"])
            return f'<g id="{name}">{inner}</g>'
        return self._plate(node, name)

    def _name(self, name: str) -> str:
        self._count += 1
        if self._is_unnamed:
            return f"Layer {self._count}"
        self._ids[name] = self._ids.get(name, 0) + 1
        return name if self._ids[name] == 1 else f"{name}-{self._ids[name]}"

    def _text(self, node: dict[str, Any], name: str) -> str:
        family = node["family"].split(",")[0].strip('"')
        lines = "".join(
            f'<tspan x="{line["x"]:.3f}" y="{line["top"] + _RISE[family] * line["height"]:.2f}">'
            f"{escape(line['text'].strip())}</tspan>"
            for line in node["lines"]
        )
        return (
            f'<text id="{name}" font-family="{family}" font-size="{node["size"]}" '
            f'font-weight="{node["weight"]}" fill="{_hex(node["color"])}">{lines}</text>'
        )

    def _plate(self, node: dict[str, Any], name: str) -> str:
        x, y, width, height = node["rect"]
        fill = _hex(node["color"]) if node["color"] != "rgba(0, 0, 0, 0)" else "none"
        if node["image"] != "none":
            fill = self._gradient(node["image"])
        if node["border"] and not node["all"]:  # a line above
            return f'<rect id="{name}" x="{x}" y="{y}" width="{width}" height="{node["border"]}" fill="{_hex(node["line"])}"/>'
        inset, stroke = node["border"] / 2, ""
        if node["border"]:
            stroke = f' stroke="{_hex(node["line"])}" stroke-width="{node["border"]}"'
        return (
            f'<rect id="{name}" x="{x + inset}" y="{y + inset}" width="{width - 2 * inset}" '
            f'height="{height - 2 * inset}" rx="{max(0, node["radius"] - inset)}" fill="{fill}"{stroke}/>'
        )

    def _gradient(self, image: str) -> str:
        colors = [_hex(color) for color in re.findall(r"rgba?\([^)]*\)", image)]
        number = len(self.defs)
        stops = "".join(
            f'<stop offset="{n / (len(colors) - 1)}" stop-color="{color}"/>'
            for n, color in enumerate(colors)
        )
        self.defs.append(
            f'<linearGradient id="fade{number}" x2="0" y2="1">{stops}</linearGradient>'
        )
        return f"url(#fade{number})"


def _hex(color: str) -> str:
    numbers = [float(one) for one in color[color.index("(") + 1 : -1].split(",")]
    return "#" + "".join(f"{round(one):02x}" for one in numbers[:3])


def mockup(tree: dict[str, Any], width: int, height: int, *, is_unnamed: bool) -> str:
    drawing = _Drawing(is_unnamed=is_unnamed)
    inner = "".join(drawing.of(part) for part in tree["parts"])
    ground = "".join(drawing.defs)
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}" height="{height}" '
        f'viewBox="0 0 {width} {height}"><defs>{ground}</defs>{inner}</svg>'
    )


def drawn(tab: Page, source: Path, *, is_unnamed: bool = False) -> tuple[dict[str, Any], str]:
    """What a page shows at its own width, and a mockup of it; the tab is left at that width."""
    tab.goto(source.as_uri())
    size = "Math.round(document.body.getBoundingClientRect().width)"
    width = int(tab.evaluate(size))
    tab.set_viewport_size({"width": width, "height": 800})
    tab.evaluate("document.fonts.ready")
    height = int(tab.evaluate("Math.ceil(document.body.getBoundingClientRect().bottom)"))
    seen = {**tab.evaluate(SEEN), "width": width}
    return seen, mockup(tab.evaluate(TREE), width, height, is_unnamed=is_unnamed)


def compared(tab: Page, wanted: dict[str, Any], built: Path) -> dict[str, Any]:
    """How a built page comes back at the width of what was drawn."""
    tab.set_viewport_size({"width": wanted["width"], "height": 800})
    tab.goto(built.as_uri())
    tab.evaluate("document.fonts.ready")
    return judge(wanted, tab.evaluate(SEEN))


def _near(one: list[float], other: list[float]) -> bool:
    edges = [(r[0], r[1], r[0] + r[2], r[1] + r[3]) for r in (one, other)]
    return all(abs(a - b) <= NEAR for a, b in zip(*edges, strict=True))


def judge(wanted: dict[str, Any], got: dict[str, Any]) -> dict[str, Any]:
    """How many of each kind are right, of how many."""
    pool = list(got["lines"])
    right, wrong = 0, []
    for line in wanted["lines"]:
        text = " ".join(line["text"].split())
        alike = [one for one in pool if " ".join(one["text"].split()) == text]
        best = min(
            alike,
            key=lambda one: abs(one["x"] - line["x"]) + abs(one["middle"] - line["middle"]),
            default=None,
        )
        if (
            best
            and abs(best["x"] - line["x"]) <= NEAR
            and abs(best["middle"] - line["middle"]) <= NEAR
        ):
            right += 1
            pool.remove(best)
        else:
            off = (
                (round(best["x"] - line["x"], 1), round(best["middle"] - line["middle"], 1))
                if best
                else None
            )
            wrong.append((text[:40], off))
    arts = [
        any(_overlaps(one["rect"], other["rect"]) for other in got["arts"])
        for one in wanted["arts"]
    ]
    plates = [one for one in wanted["boxes"] if one["rect"][2] < 0.98 * wanted["width"]]
    boxes = [any(_near(one["rect"], other["rect"]) for other in got["boxes"]) for one in plates]
    order = [" ".join(one["text"].split()) for one in wanted["lines"]]
    read = [
        text
        for text in (" ".join(one["text"].split()) for one in got["lines"] if "hint" not in one)
        if text in order
    ]
    steps = sum(a <= b for a, b in pairwise(order.index(text) for text in read))
    return {
        "lines": (right, len(wanted["lines"])),
        "pictures": (sum(arts), len(arts)),
        "plates": (sum(boxes), len(boxes)),
        "landmarks": (
            sum(1 for m in {*wanted["marks"]} if m in got["marks"]),
            len({*wanted["marks"]}),
        ),
        "headings": (sum(1 for h in wanted["heads"] if h in got["heads"]), len(wanted["heads"])),
        "lists": (sum(1 for n in wanted["lists"] if n in got["lists"]), len(wanted["lists"])),
        "order": (steps, max(0, len(read) - 1)),
        "wrong": wrong,
        "missing": [o for o, ok in zip(plates, boxes, strict=True) if not ok],
        "heads": [h for h in got["heads"] if h not in wanted["heads"]]
        + [("lost", h) for h in wanted["heads"] if h not in got["heads"]],
        "arts": [o["rect"] for o, ok in zip(wanted["arts"], arts, strict=True) if not ok],
    }


def _overlaps(wanted: list[float], got: list[float]) -> bool:
    """Whether a picture lies where it should: what it paints may be less than its box."""
    middle = [(r[0] + r[2] / 2, r[1] + r[3] / 2) for r in (wanted, got)]
    inside = got[2] <= wanted[2] + NEAR and got[3] <= wanted[3] + NEAR and got[2] > wanted[2] / 2
    return _near(wanted, got) or (
        inside
        and all(abs(a - b) <= max(NEAR, 0.12 * wanted[2]) for a, b in zip(*middle, strict=True))
    )
