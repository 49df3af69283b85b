// What goes wrong with a page at the width of its window: sideways scrolling, pictures, text, columns.
() => {
  const every = [...document.body.querySelectorAll("*")].filter(e => e.checkVisibility() && !e.closest("svg svg, svg *:not(svg)"));
  const number = new Map(globalThis.rifflerElements.map((e, n) => [e, n]));
  const found = [], wide = document.documentElement.clientWidth;
  const add = (kind, e, by) => found.push({kind, element: number.get(e) ?? -1, by: Math.round(by * 10) / 10});
  const box = e => e.getBoundingClientRect();
  const hides = e => { for (let a = e.parentElement; a; a = a.parentElement)
    if (getComputedStyle(a).overflowX !== "visible" && a !== document.body && a !== document.documentElement) return true; return false; };
  const over = document.scrollingElement.scrollWidth - wide;
  if (over > 1) {
    const out = every.filter(e => box(e).right + scrollX > wide + 1 && !hides(e));
    const first = out.find(e => !out.some(other => other !== e && e.contains(other))) ?? out[0];
    add("scrolls sideways", first ?? document.body, over);
  }
  for (const e of every) {
    const c = getComputedStyle(e), b = box(e);
    if (["img", "svg", "video", "canvas"].includes(e.localName) && e.parentElement && c.position === "static" && !hides(e)) {
      const around = box(e.parentElement);
      const by = Math.max(b.right - around.right, around.left - b.left);
      if (around.width && by > 1 && getComputedStyle(e.parentElement).display !== "inline") add("picture leaves its box", e, by);
    }
    const says = [...e.childNodes].some(n => n.nodeType === 3 && n.textContent.trim());
    if (says && c.overflowX !== "visible" && e.clientWidth > 2 && e.clientHeight > 2) {
      const by = Math.max(e.scrollWidth - e.clientWidth, c.overflowY === "visible" ? 0 : e.scrollHeight - e.clientHeight);
      if (by > 1 && !["auto", "scroll"].includes(c.overflowX)) add("text cut off", e, by);
    }
    const flows = c.display.endsWith("grid") || (c.display.endsWith("flex") && c.flexDirection.startsWith("row"));
    if (flows && e.children.length > 1) {
      const rows = [...e.children].map(box).filter(one => one.width && one.height);
      const beside = rows.length > 1 && Math.abs(rows[0].top - rows[1].top) < rows[0].height && rows[1].left >= rows[0].right - 1;
      const thin = [...e.children].find(child => {
        const text = [child, ...child.querySelectorAll("*")].find(one =>
          [...one.childNodes].some(n => n.nodeType === 3 && n.textContent.trim().length > 24));
        if (!text) return false;
        const size = parseFloat(getComputedStyle(text).fontSize), here = box(text);
        return here.width < 7 * size && here.height > 5 * size;
      });
      if (beside && thin) add("columns did not fall", e, box(thin).width);
    }
  }
  return found;
}
