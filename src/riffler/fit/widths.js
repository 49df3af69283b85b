// What goes wrong with a page at the width of its window: sideways scrolling, pictures, text, columns.
() => {
  const {of, doc, elements} = globalThis.riffler, root = doc.documentElement;
  if (!doc.body) return [];
  const every = [...doc.body.querySelectorAll("*")].filter(e => of(e).checkVisibility() && !of(e).closest("svg svg, svg *:not(svg)"));
  const number = new Map(elements.map((e, n) => [e, n]));
  const found = [], wide = root.clientWidth;
  const add = (kind, e, by) => found.push({kind, element: number.get(e) ?? -1, by: Math.round(by * 10) / 10});
  const box = e => of(e).getBoundingClientRect();
  const hides = e => { for (let a = of(e).parentElement; a; a = of(a).parentElement)
    if (getComputedStyle(a).overflowX !== "visible" && a !== doc.body && a !== root) return true; return false; };
  const over = doc.scrollingElement.scrollWidth - wide;
  if (over > 1) {
    const out = every.filter(e => box(e).right + scrollX > wide + 1 && !hides(e));
    const first = out.find(e => !out.some(other => other !== e && of(e).contains(other))) ?? out[0];
    add("scrolls sideways", first ?? doc.body, over);
  }
  for (const e of every) {
    const c = getComputedStyle(e), b = box(e);
    if (["img", "svg", "video", "canvas"].includes(of(e).localName) && of(e).parentElement && c.position === "static" && !hides(e)) {
      const around = box(of(e).parentElement);
      const by = Math.max(b.right - around.right, around.left - b.left);
      if (around.width && by > 1 && getComputedStyle(of(e).parentElement).display !== "inline") add("picture leaves its box", e, by);
    }
    const {childNodes, children, clientWidth, clientHeight, scrollWidth, scrollHeight} = of(e);
    const says = [...childNodes].some(n => n.nodeType === 3 && n.textContent.trim());
    if (says && c.overflowX !== "visible" && clientWidth > 2 && clientHeight > 2) {
      const by = Math.max(scrollWidth - clientWidth, c.overflowY === "visible" ? 0 : scrollHeight - clientHeight);
      if (by > 1 && !["auto", "scroll"].includes(c.overflowX)) add("text cut off", e, by);
    }
    const flows = c.display.endsWith("grid") || (c.display.endsWith("flex") && c.flexDirection.startsWith("row"));
    if (flows && children.length > 1) {
      const rows = [...children].map(box).filter(one => one.width && one.height);
      const beside = rows.length > 1 && Math.abs(rows[0].top - rows[1].top) < rows[0].height && rows[1].left >= rows[0].right - 1;
      const thin = [...children].find(child => {
        const text = [child, ...of(child).querySelectorAll("*")].find(one =>
          [...of(one).childNodes].some(n => n.nodeType === 3 && n.textContent.trim().length > 24));
        if (!text) return false;
        const size = parseFloat(getComputedStyle(text).fontSize), here = box(text);
        return here.width < 7 * size && here.height > 5 * size;
      });
      if (beside && thin) add("columns did not fall", e, box(thin).width);
    }
  }
  return found;
}
