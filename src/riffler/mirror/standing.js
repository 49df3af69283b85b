// Where each numbered element of a page stands, and the lines of its words, in CSS pixels of the page.
() => {
  const doc = document, result = [];
  for (const e of doc.querySelectorAll("[data-n]")) {
    const b = e.getBoundingClientRect(), lines = [];
    const walk = doc.createTreeWalker(e, NodeFilter.SHOW_TEXT);
    const range = doc.createRange();
    for (let node; node = walk.nextNode();) {
      if (!node.data.trim()) continue;
      range.selectNodeContents(node);
      for (const r of range.getClientRects()) {
        if (!r.width) continue;
        const last = lines.at(-1), middle = (r.top + r.bottom) / 2;
        if (last && middle > last.top && middle < last.bottom) {
          last.left = Math.min(last.left, r.left);
          last.right = Math.max(last.right, r.right);
        } else lines.push({left: r.left, right: r.right, top: r.top, bottom: r.bottom});
      }
    }
    result.push({
      number: Number(e.dataset.n),
      box: [b.left + scrollX, b.top + scrollY, b.width, b.height],
      lines: lines.map(l => [l.left + scrollX, l.top + scrollY, l.right - l.left, l.bottom - l.top]),
    });
  }
  return result;
}
