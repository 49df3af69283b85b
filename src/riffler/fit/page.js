// What a page shows, as data: texts line by line, boxes that are painted, pictures; CSS px from the page's corner.
() => {
  const {of, doc, stays, above} = globalThis.riffler, root = doc.documentElement;
  if (!doc.body) return {elements: [], texts: [], boxes: [], hidden: [], pictures: [], width: root ? root.scrollWidth : 0, height: 0};
  const rect = b => [b.x + scrollX, b.y + scrollY, b.width, b.height];
  const seen = e => of(e).checkVisibility({opacityProperty: true, visibilityProperty: true, contentVisibilityAuto: true});
  const every = [...doc.querySelectorAll("body, body *")].filter(e => !of(e).closest("svg svg, svg *:not(svg)"));
  const number = new Map(every.map((e, n) => [e, n]));
  globalThis.riffler.elements = every;
  const inline = e => getComputedStyle(e).display === "inline";
  const block = e => { while (inline(e) && of(e).parentElement && e !== doc.body) e = of(e).parentElement; return e; };
  const elements = every.map(e => ({
    tag: of(e).localName, classes: [...of(e).classList], id: of(e).id, parent: number.get(of(e).parentElement) ?? -1,
    rect: rect(of(e).getBoundingClientRect()),
  }));
  const pen = doc.createElement("canvas").getContext("2d"), ascents = new Map();
  const face = c => `${c.fontStyle} ${c.fontWeight} ${c.fontSize} ${c.fontFamily}`;
  const ascent = c => {
    const font = face(c);
    if (!ascents.has(font)) {
      pen.font = font;
      ascents.set(font, pen.measureText("x").fontBoundingBoxAscent);
    }
    return Math.round(ascents.get(font));
  };
  const texts = [];
  const walker = doc.createTreeWalker(doc.body, NodeFilter.SHOW_TEXT);
  while (walker.nextNode()) {
    const node = walker.currentNode, text = node.textContent, parent = node.parentElement;
    if (!text.trim() || of(parent).closest("svg, style, script, noscript, template") || !seen(parent)) continue;
    const range = doc.createRange(), c = getComputedStyle(parent), lines = [];
    for (let i = 0; i < text.length; i++) {
      if (/\s/.test(text[i])) { if (lines.length) lines.at(-1).text += " "; continue; }
      range.setStart(node, i); range.setEnd(node, i + 1);
      const b = range.getBoundingClientRect();
      if (!b.width && !b.height) continue;
      const line = lines.at(-1);
      if (!line || Math.abs(line.top - b.y - scrollY) > b.height / 2)
        lines.push({text: "", x: b.x + scrollX, top: b.y + scrollY, height: b.height, right: 0});
      lines.at(-1).text += text[i];
      lines.at(-1).right = b.right + scrollX;
    }
    if (lines.length) texts.push({
      lines, element: number.get(parent), block: number.get(block(parent)), size: parseFloat(c.fontSize),
      weight: parseInt(c.fontWeight), family: c.fontFamily, italic: c.fontStyle !== "normal", color: c.color,
      spacing: parseFloat(c.letterSpacing) || 0, ascent: ascent(c), transform: c.textTransform,
    });
  }
  // What fields say, whose words no range tells: in their first line, where it has the room.
  for (const e of every) {
    const name = of(e).localName;
    if (!/^(input|textarea|select)$/.test(name) || !seen(e)) continue;
    if (/^(checkbox|radio|hidden|file|range|color|image|submit|button|reset)$/.test(e.type)) continue;
    const c = getComputedStyle(e), b = e.getBoundingClientRect(), n = key => parseFloat(c[key]) || 0;
    if (name === "select" && c.appearance !== "none") continue;
    const text = name === "select" ? e.selectedOptions[0]?.text : e.value || e.placeholder;
    if (!text?.trim()) continue;
    const up = ascent(c);
    pen.font = face(c);
    pen.letterSpacing = c.letterSpacing === "normal" ? "0px" : c.letterSpacing;
    const m = pen.measureText(text), wide = m.width, h = up + Math.round(m.fontBoundingBoxDescent);
    pen.letterSpacing = "0px";
    const left = b.x + n("borderLeftWidth") + n("paddingLeft"), right = b.right - n("borderRightWidth") - n("paddingRight");
    const top = b.y + n("borderTopWidth") + n("paddingTop"), bottom = b.bottom - n("borderBottomWidth") - n("paddingBottom");
    if (wide > right - left + 1) continue;
    const at = {center: (left + right - wide) / 2, right: right - wide, end: right - wide}[c.textAlign] ?? left;
    const high = name === "textarea" ? n("lineHeight") || h : bottom - top;
    texts.push({
      lines: [{text, x: at + scrollX, right: at + wide + scrollX, top: top + (high - h) / 2 + scrollY, height: h}],
      element: number.get(e), block: number.get(e), size: parseFloat(c.fontSize), weight: parseInt(c.fontWeight),
      family: c.fontFamily, italic: c.fontStyle !== "normal", spacing: parseFloat(c.letterSpacing) || 0, ascent: up,
      color: e.value || name === "select" ? c.color : getComputedStyle(e, "::placeholder").color, transform: c.textTransform,
    });
  }
  const px = (value, side) => value.split(" ").map(one => one.endsWith("%") ? parseFloat(one) * side / 100 : parseFloat(one))[0];
  const boxes = [], pictures = [];
  for (const e of every) {
    if (!seen(e)) continue;
    const c = getComputedStyle(e), b = of(e).getBoundingClientRect();
    if (["img", "svg", "canvas", "video"].includes(of(e).localName)) {
      if (e.localName === "img" && e.complete && !e.naturalWidth) continue;
      if (!b.width || !b.height) continue;
      e.dataset.rifflerPicture = pictures.length;
      const natural = [e.naturalWidth || 0, e.naturalHeight || 0], view = e.viewBox && e.viewBox.baseVal;
      const keeps = view ? e.preserveAspectRatio.baseVal.align > 1 : /contain|scale-down/.test(c.objectFit)
        || /\.svg($|[?#])|^data:image\/svg/.test(e.currentSrc || "");
      const kept = keeps ? view ? [view.width, view.height] : natural : [0, 0];
      pictures.push({element: number.get(e), rect: rect(b), natural, kept});
      continue;
    }
    const painted = c.backgroundColor !== "rgba(0, 0, 0, 0)" || c.backgroundImage !== "none" || c.boxShadow !== "none"
      || ["Top", "Right", "Bottom", "Left"].some(side => parseFloat(c[`border${side}Width`]));
    if (!painted || !b.width || !b.height) continue;
    const side = Math.min(b.width, b.height) / 2;
    boxes.push({
      element: number.get(e), rect: rect(b), color: c.backgroundColor, image: c.backgroundImage, shadow: c.boxShadow,
      radii: ["TopLeft", "TopRight", "BottomRight", "BottomLeft"].map(at => Math.min(side, px(c[`border${at}Radius`], b.width))),
      borders: ["Top", "Right", "Bottom", "Left"].map(at => [parseFloat(c[`border${at}Width`]), c[`border${at}Color`]]),
      fills: e === doc.body && getComputedStyle(root)
        .backgroundColor === "rgba(0, 0, 0, 0)",
    });
  }
  // Texts that another element lies on, which does not hold them and does not stay in the window.
  const points = texts.flatMap(text => text.lines.flatMap(line => [1, 2, 3].map(part =>
    ({text, e: every[text.element], x: line.x + part * (line.right - line.x) / 4, y: line.top + line.height / 2}))));
  texts.forEach(text => { text.on = text.under = 0; });
  above(points, (point, lid) => {
    point.text.on++;
    if (lid && !stays(lid)) point.text.under++;
  });
  scrollTo(0, 0);
  texts.forEach(text => { text.covered = text.under > text.on / 2; });
  // What is there and not shown, by the outermost of it: its place, where it has one, and its words.
  const hidden = every.filter(e => !seen(e) && !/^(script|style|template|noscript|option)$/.test(of(e).localName))
    .map(e => ({element: number.get(e), rect: rect(of(e).getBoundingClientRect()), text: (of(e).textContent ?? "").trim().slice(0, 400)}));
  return {elements, texts, boxes, hidden, pictures, width: root.scrollWidth,
    height: Math.max(root.scrollHeight, Math.ceil(doc.body.getBoundingClientRect().bottom + scrollY))};
}
