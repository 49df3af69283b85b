// A page at the width of its window: what goes wrong there, and what tells that at other widths.
() => {
  const {of, doc, elements, stays, above} = globalThis.riffler, root = doc.documentElement;
  const none = {troubles: [], edges: [], full: [], stacked: [], width: root.clientWidth};
  if (!doc.body) return none;
  const every = [...doc.body.querySelectorAll("*")].filter(e => of(e).checkVisibility({visibilityProperty: true})
    && !of(e).closest("svg svg, svg *:not(svg)"));
  const number = new Map(elements.map((e, n) => [e, n])), wide = root.clientWidth, troubles = [];
  const add = (kind, e, by, other) => troubles.push({
    kind, element: number.get(e) ?? -1, by: Math.round(by * 10) / 10, other: number.get(other) ?? -1});
  const box = e => of(e).getBoundingClientRect(), style = new Map(every.map(e => [e, getComputedStyle(e)]));
  const around = function* (e) { for (let a = of(e).parentElement; a && a !== doc.body && a !== root; a = of(a).parentElement) yield a; };
  const hides = e => { for (const a of around(e)) if (getComputedStyle(a).overflowX !== "visible") return true; return false; };
  const isPicture = e => ["img", "svg", "video", "canvas"].includes(of(e).localName);

  // Lines of text, by the elements that hold them; what is there for ears alone is none.
  const lines = [];
  for (const e of every) {
    for (const n of of(e).childNodes) {
      if (n.nodeType !== 3 || !n.textContent.trim()) continue;
      const range = doc.createRange();
      range.selectNodeContents(n);
      for (const b of range.getClientRects()) if (b.width > 2 && b.height > 2) lines.push({
        e, left: b.left, right: b.right, top: b.top + .2 * b.height, bottom: b.bottom - .2 * b.height});
    }
  }
  const unclipped = [];
  for (const line of lines) {
    line.by = 0;
    const chain = [line.e, ...around(line.e)];
    for (const a of chain) {
      const c = getComputedStyle(a), b = box(a);
      if (c.overflowX === "visible" && c.overflowY === "visible") continue;
      if (/auto|scroll/.test(c.overflowX + c.overflowY) || b.width <= 2 || b.height <= 2) { line.away = true; break; }
      const beyond = o => Math.max(o.right - b.right, b.left - o.left, o.bottom - b.bottom, b.top - o.top);
      if (beyond(line) > Math.max(1, line.by)) {
        line.by = beyond(line);
        line.cause = chain.slice(0, chain.indexOf(a)).findLast(o => beyond(box(o)) > 1) ?? line.e;
      }
      line.away ||= line.right < b.left + 1 || line.left > b.right - 1 || line.bottom < b.top || line.top > b.bottom;
    }
    if (!line.away) unclipped.push(line);
  }

  const over = doc.scrollingElement.scrollWidth - wide;
  if (over > 1) {
    const out = every.filter(e => box(e).right + scrollX > wide + 1 && !hides(e));
    const first = out.find(e => !out.some(other => other !== e && of(e).contains(other))) ?? out[0];
    add("scrolls sideways", first ?? doc.body, over);
  }
  for (const line of unclipped) {
    const by = Math.max(line.by, stays(line.e) ? 0 : -1 - line.left - scrollX);
    if (by > 1) add("text cut off", line.cause ?? line.e, by);
  }
  unclipped.sort((a, b) => a.top - b.top);
  unclipped.forEach((a, n) => {
    for (let m = n + 1; m < unclipped.length && unclipped[m].top < a.bottom - 2; m++) {
      const b = unclipped[m], by = Math.min(Math.min(a.right, b.right) - Math.max(a.left, b.left), Math.min(a.bottom, b.bottom) - b.top);
      if (by <= 2 || a.e === b.e || of(a.e).contains(b.e) || of(b.e).contains(a.e) || stays(a.e) || stays(b.e)) continue;
      const isLater = a.e.compareDocumentPosition(b.e) & Node.DOCUMENT_POSITION_FOLLOWING;
      add("text over text", isLater ? b.e : a.e, by, isLater ? a.e : b.e);
    }
  });

  // What lies on most of a line, and paints something.
  const paints = e => isPicture(e) || getComputedStyle(e).backgroundImage !== "none"
    || !/^transparent$|^rgba\(.*, 0\)$/.test(getComputedStyle(e).backgroundColor);
  const points = unclipped.flatMap(line => [1, 2, 3].map(part => ({
    line, e: line.e, x: line.left + part * (line.right - line.left) / 4 + scrollX, y: (line.top + line.bottom) / 2 + scrollY})));
  const start = scrollY;
  above(points, ({line}, lid) => {
    if (!lid || stays(lid) || !paints(lid)) return;
    line.under = (line.under ?? 0) + 1;
    line.lid = lid;
  });
  scrollTo(0, start);
  for (const line of unclipped) if (line.under > 1) add("covers text", line.lid, line.right - line.left, line.e);

  for (const e of every) {
    const c = style.get(e), b = box(e);
    if (isPicture(e) && of(e).parentElement && c.position === "static" && !hides(e)) {
      const outer = box(of(e).parentElement), by = Math.max(b.right - outer.right, outer.left - b.left);
      if (outer.width && by > 1 && getComputedStyle(of(e).parentElement).display !== "inline") add("picture leaves its box", e, by);
    }
    if (e.localName === "img" && e.naturalWidth && b.width) {
      const n = name => parseFloat(c[name]) || 0;
      const w = e.offsetWidth - n("borderLeftWidth") - n("borderRightWidth") - n("paddingLeft") - n("paddingRight");
      const h = e.offsetHeight - n("borderTopWidth") - n("borderBottomWidth") - n("paddingTop") - n("paddingBottom");
      let sx = w / e.naturalWidth, sy = h / e.naturalHeight;
      const off = Math.min(Math.abs(w - h * e.naturalWidth / e.naturalHeight), Math.abs(h - w * e.naturalHeight / e.naturalWidth));
      if (c.objectFit === "fill" && Math.abs(sx / sy - 1) > .02 && off > 1) add("picture distorted", e, off);
      if (c.objectFit === "cover") sx = sy = Math.max(sx, sy);
      if (/contain|scale-down/.test(c.objectFit)) sx = sy = Math.min(sx, sy);
      const isDrawn = /\.svg($|[?#])|^data:image\/svg/.test(e.currentSrc || "");
      if (!isDrawn && c.objectFit !== "none" && Math.max(sx, sy) > 1.05) add("picture enlarged", e, w - w / Math.max(sx, sy));
    }
    const {children} = of(e), flows = c.display.endsWith("grid") || (c.display.endsWith("flex") && c.flexDirection.startsWith("row"));
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

  // Where what is in the header, the content and the footer begins and ends.
  const edges = [];
  for (const name of ["header", "main", "footer"]) {
    const part = doc.querySelector(name);
    if (!part || !box(part).width) continue;
    const set = unclipped.filter(line => of(part).contains(line.e));
    const small = every.filter(e => isPicture(e) && of(part).contains(e) && box(e).width && box(e).width < .45 * wide && box(e).left > 1);
    const sides = [...set.filter(line => style.get(line.e)?.textAlign !== "center"), ...small.map(box)];
    if (!sides.length) continue;
    const left = Math.min(...sides.map(b => b.left)), right = Math.max(...[...set, ...small.map(box)].map(b => b.right));
    const rows = new Set([...set].map(line => Math.round(line.top))).size;
    edges.push({part: name, element: number.get(part) ?? -1, left, right, rows});
  }
  // What is painted from one side of the window to the other.
  const full = every.filter(e => {
    const b = box(e);
    return b.height >= 8 && b.left <= 1 && b.right >= wide - 1 && b.left > -1.5 && b.right < wide + 1.5 && paints(e);
  }).map(e => number.get(e)).filter(n => n !== undefined);
  // Navigations whose links lie below one another, though they would lie beside one another.
  const stacked = every.filter(e => of(e).localName === "nav").flatMap(e => {
    const links = every.filter(a => of(a).localName === "a" && of(e).contains(a)).map(box).filter(b => b.width);
    if (links.length < 3 || links.some((b, n) => n && b.top < links[n - 1].bottom - 1)) return [];
    const words = [...unclipped].filter(line => of(e).contains(line.e)).map(line => line.right - line.left);
    const row = of(e).closest("header") ?? of(e).parentElement ?? e, c = getComputedStyle(row);
    const room = of(row).clientWidth - parseFloat(c.paddingLeft) - parseFloat(c.paddingRight);
    return [{element: number.get(e) ?? -1, need: words.reduce((sum, w) => sum + w, 0) + 32 * (words.length - 1), room}];
  });
  return {troubles, edges, full, stacked, width: wide};
}
