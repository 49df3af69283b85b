(() => {
  "use strict";
  const root = document.documentElement, body = document.body;
  const SVG = "http://www.w3.org/2000/svg";
  const DECIMALS = { px: 2, rem: 4, vw: 3 };
  const state = {
    page: null, zoom: 1, unit: body.dataset.unit, base: Number(body.dataset.base), scale: "css",
    pointed: null, held: null, pegs: { a: null, b: null },
    over: { grid: false, guides: false, slices: false, rulers: true },
  };

  const make = (tag, props = {}, ...kids) => {
    const node = Object.assign(document.createElement(tag), props);
    node.append(...kids.filter((kid) => kid !== null && kid !== undefined));
    return node;
  };
  const draw = (parent, tag, attributes, text) => {
    const node = document.createElementNS(SVG, tag);
    for (const [name, value] of Object.entries(attributes)) node.setAttribute(name, value);
    if (text !== undefined) node.textContent = text;
    parent.append(node);
    return node;
  };
  const numbers = (text) => text.split(" ").filter(Boolean).map(Number);
  const boxed = ([x, y, width, height]) => ({ x, y, width, height, right: x + width, bottom: y + height });

  // What the page says, read from its own list.
  const pages = [...document.querySelectorAll(".page")].map((element) => {
    const data = element.dataset;
    const page = {
      element, name: data.name, width: Number(data.width), height: Number(data.height),
      density: Number(data.density), left: Number(data.left), content: Number(data.content),
      columns: data.columns.split(" ").filter(Boolean).map((pair) => pair.split(",").map(Number)),
      frame: element.querySelector(".frame"), plane: element.querySelector(".plane"),
      list: element.querySelector(".things"),
      guides: [...element.querySelectorAll(".guides li")].map((one) => ({
        axis: one.dataset.axis, at: Number(one.dataset.at), name: one.dataset.name })),
    };
    page.box = boxed([0, 0, page.width, page.height]);
    page.things = [...element.querySelectorAll(".thing")].map((one) => ({
      element: one, page, sort: one.dataset.sort, name: one.querySelector(".name").textContent,
      address: one.dataset.address, depth: Number(one.dataset.depth), box: boxed(numbers(one.dataset.box)),
      isHidden: "hidden" in one.dataset, isOn: false, isFolded: false,
    }));
    page.things.forEach((thing, index) => {
      const next = page.things[index + 1];
      thing.isGroup = thing.sort === "group";
      thing.hasParts = thing.sort !== "slice" && Boolean(next && next.depth > thing.depth && next.sort !== "slice");
    });
    page.variants = [...element.querySelectorAll(".variant")].map((image) => ({ image, layer: image.dataset.layer,
      name: image.dataset.name, box: boxed(numbers(image.dataset.box)) }));
    page.variants.forEach(({ image, box }) => {
      image.style.left = `${(100 * box.x) / page.width}%`;
      image.style.top = `${(100 * box.y) / page.height}%`;
      image.style.width = `${(100 * box.width) / page.width}%`;
    });
    page.marks = document.createElementNS(SVG, "svg");
    page.marks.setAttribute("class", "marks");
    page.marks.setAttribute("viewBox", `0 0 ${page.width} ${page.height}`);
    page.marks.setAttribute("preserveAspectRatio", "none");
    page.marks.setAttribute("aria-hidden", "true");
    page.plane.append(page.marks);
    return page;
  });

  // Lengths in the unit that is wanted.
  const factor = () => {
    const { density } = state.page;
    return { css: 1 / density, mockup: 1, double: 2 / density, half: 0.5 / density }[state.scale];
  };
  const size = () => ({ px: 1, rem: state.base, vw: (state.page.width * factor()) / 100 })[state.unit];
  const say = (length) => {
    const value = Number((length * factor() / size()).toFixed(DECIMALS[state.unit]));
    return String(value === 0 ? 0 : value);
  };
  const spoken = (length) => (say(length) === "0" ? "0" : say(length) + state.unit);
  const css = (thing) => {
    const text = thing.element.querySelector(".css");
    if (!text) return "";
    const toMockup = state.page.density;
    return text.textContent.trim().split("\n").map((line) => {
      if (/^(border|content):/.test(line)) return line;
      return line.replace(/(-?[\d.]+)px/g, (all, value) => spoken(Number(value) * toMockup));
    }).join("\n");
  };

  // How boxes lie to one another: the same as riffler measure.
  const gap = (a, b, c, d) => Math.max(a, c) - Math.min(b, d);
  const holds = (outer, inner) => inner.x >= outer.x && inner.y >= outer.y
    && inner.right <= outer.right && inner.bottom <= outer.bottom;
  const isSame = (one, other) => one.x === other.x && one.y === other.y
    && one.right === other.right && one.bottom === other.bottom;
  const isPart = (one, other) => one.address.startsWith(`${other.address}/`);
  const isSeen = (thing) => !thing.isHidden || thing.isOn;
  const isDrawing = (thing) => thing.sort !== "slice" && !thing.hasParts && thing.box.width > 0 && isSeen(thing);
  const neighbours = (thing) => {
    const { box } = thing, found = {};
    for (const other of thing.page.things) {
      if (other === thing || !isDrawing(other) || isPart(other, thing) || isPart(thing, other)) continue;
      const around = other.box;
      if ((holds(around, box) || holds(box, around)) && !isSame(box, around)) continue;
      const gaps = {};
      if (gap(box.y, box.bottom, around.y, around.bottom) < 0) {
        gaps.left = box.x - around.right;
        gaps.right = around.x - box.right;
      }
      if (gap(box.x, box.right, around.x, around.right) < 0) {
        gaps.above = box.y - around.bottom;
        gaps.below = around.y - box.bottom;
      }
      for (const [side, length] of Object.entries(gaps)) {
        if (length > -0.5 && !(side in found && found[side].gap <= length)) found[side] = { gap: length, name: other.name };
      }
    }
    const rim = { left: box.x, right: thing.page.width - box.right, above: box.y, below: thing.page.height - box.bottom };
    for (const side of Object.keys(rim)) found[side] ??= { gap: rim[side], name: "canvas" };
    return found;
  };
  const LINES = { x: ["left", "center", "right"], y: ["top", "middle", "bottom"] };
  const places = (box, axis) => (axis === "x" ? [box.x, box.x + box.width / 2, box.right]
    : [box.y, box.y + box.height / 2, box.bottom]);
  const meetings = (one, other) => {
    const found = [], near = 2 * state.page.density, exact = 0.1 * state.page.density;
    for (const axis of ["x", "y"]) {
      places(one, axis).forEach((from, i) => places(other, axis).forEach((to, j) => {
        const off = to - from;
        if ((i === 1) !== (j === 1) || Math.abs(off) > near) return;
        const names = [LINES[axis][i], LINES[axis][j]];
        found.push({ name: i === j ? names[0] : `${names[0]} of A, ${names[1]} of B`, off, isExact: Math.abs(off) <= exact });
      }));
    }
    return found;
  };

  // What is drawn over the mockup.
  const pixel = () => 1 / state.zoom;
  const INKS = { honey: "#a3540f", leaf: "#46652a", plum: "#7a3d6b", ink: "#2d2821", halo: "#fffdf8" };
  const color = (name) => INKS[name]; // on the mockup, which is the same by day and by night
  const stroke = (marks, points, name, dash) => {
    for (const [tint, width] of [["halo", 3.5], [name, 1.5]]) {
      draw(marks, "polyline", { points: points.map((point) => point.join(",")).join(" "), fill: "none",
        stroke: color(tint), "stroke-width": width * pixel(), "stroke-dasharray": dash && tint === name ? `${3 * pixel()} ${3 * pixel()}` : "none" });
    }
  };
  const corners = (marks, box, name, dash) => {
    const out = 3 * pixel(), long = Math.min(12 * pixel(), Math.max(box.width, box.height, 8 * pixel()) / 2);
    const [left, top, right, bottom] = [box.x - out, box.y - out, box.right + out, box.bottom + out];
    for (const [x, y, dx, dy] of [[left, top, 1, 1], [right, top, -1, 1], [right, bottom, -1, -1], [left, bottom, 1, -1]]) {
      stroke(marks, [[x + dx * long, y], [x, y], [x, y + dy * long]], name, dash);
    }
  };
  const plate = (marks, x, y, text, name) => {
    const high = 17 * pixel(), wide = (7 * text.length + 10) * pixel();
    draw(marks, "rect", { x: x - wide / 2, y: y - high / 2, width: wide, height: high, rx: 4 * pixel(), fill: color(name) });
    draw(marks, "text", { x, y: y + 4 * pixel(), "text-anchor": "middle", "font-size": 11.5 * pixel(),
      "font-family": "ui-monospace, 'DejaVu Sans Mono', monospace", fill: color("halo") }, text);
  };
  const dimension = (marks, from, to, name) => {
    const isAcross = from[1] === to[1], tick = 4 * pixel();
    const length = Math.abs(isAcross ? to[0] - from[0] : to[1] - from[1]);
    if (length * state.zoom < 0.5) return;
    stroke(marks, [from, to], name);
    for (const [x, y] of [from, to]) stroke(marks, isAcross ? [[x, y - tick], [x, y + tick]] : [[x - tick, y], [x + tick, y]], name);
    const text = say(length), room = length * state.zoom;
    const aside = isAcross ? [0, room < 7 * text.length + 18 ? -15 : 0] : [room < 24 ? 5 * text.length + 8 : 0, 0];
    plate(marks, (from[0] + to[0]) / 2 + aside[0] * pixel(), (from[1] + to[1]) / 2 + aside[1] * pixel(), text, name);
  };
  const middle = (a, b, c, d) => (Math.max(a, c) + Math.min(b, d)) / 2;
  const between = (marks, one, other, name) => {
    const inner = holds(one, other) ? other : holds(other, one) ? one : null;
    if (inner) {
      rulers(marks, inner, inner === one ? other : one, name);
      return;
    }
    let y = middle(one.y, one.bottom, other.y, other.bottom), x = middle(one.x, one.right, other.x, other.right);
    if (gap(one.x, one.right, other.x, other.right) >= 0 && gap(one.y, one.bottom, other.y, other.bottom) >= 0) {
      y = other.y >= one.bottom ? one.bottom : one.y; // an elbow from the corner of one to the other
      x = other.x >= one.right ? other.x : other.right;
    }
    if (gap(one.x, one.right, other.x, other.right) >= 0) dimension(marks, [Math.min(one.right, other.right), y], [Math.max(one.x, other.x), y], name);
    if (gap(one.y, one.bottom, other.y, other.bottom) >= 0) dimension(marks, [x, Math.min(one.bottom, other.bottom)], [x, Math.max(one.y, other.y)], name);
  };
  const rulers = (marks, box, outer, name) => {
    const x = box.x + box.width / 2, y = box.y + box.height / 2;
    dimension(marks, [outer.x, y], [box.x, y], name);
    dimension(marks, [box.right, y], [outer.right, y], name);
    dimension(marks, [x, outer.y], [x, box.y], name);
    dimension(marks, [x, box.bottom], [x, outer.bottom], name);
  };
  const redraw = () => {
    const { page } = state, { marks } = page;
    marks.replaceChildren();
    const line = (points, name) => stroke(marks, points, name, true);
    if (state.over.grid) {
      for (const at of [page.left, page.left + page.content]) line([[at, 0], [at, page.height]], "leaf");
      for (const [start, end] of page.columns) {
        draw(marks, "rect", { x: start, y: 0, width: end - start, height: page.height, fill: color("leaf"), "fill-opacity": 0.14 });
      }
    }
    if (state.over.guides) {
      for (const guide of page.guides) {
        line(guide.axis === "x" ? [[guide.at, 0], [guide.at, page.height]] : [[0, guide.at], [page.width, guide.at]], "plum");
      }
    }
    if (state.over.slices) {
      for (const thing of page.things) if (thing.sort === "slice") corners(marks, thing.box, "plum");
    }
    const { a, b } = state.pegs;
    for (const [peg, name] of [[a, "leaf"], [b, "plum"]]) if (peg && peg.page === page) corners(marks, peg.box, name);
    const seen = state.held ?? state.pointed;
    if (state.pointed && state.held && state.pointed !== state.held) corners(marks, state.pointed.box, "ink", true);
    if (seen && seen.box.width) {
      corners(marks, seen.box, "honey");
      const isPegged = a && b && (seen === a || seen === b); // then how these two lie is what counts
      if (state.over.rulers && state.held && !isPegged) {
        const near = neighbours(seen), { box } = seen;
        rulers(marks, box, { x: box.x - near.left.gap, right: box.right + near.right.gap,
          y: box.y - near.above.gap, bottom: box.bottom + near.below.gap }, "honey");
      }
    }
    if (a && b && a.page === page && b.page === page) between(marks, a.box, b.box, "ink");
    for (const [peg, name, letter] of [[a, "leaf", "A"], [b, "plum", "B"]]) {
      if (peg && peg.page === page) plate(marks, peg.box.x, peg.box.y, letter, name);
    }
  };

  // The slip: all that is to be read of one thing.
  const said = make("div", { className: "said", role: "status" });
  let silence = 0;
  const tell = (text) => {
    said.textContent = text;
    clearTimeout(silence);
    silence = setTimeout(() => { said.textContent = ""; }, 1600);
  };
  const copy = async (text, what) => {
    try {
      await navigator.clipboard.writeText(text);
    } catch {
      const field = make("textarea", { value: text, ariaLabel: "copied" });
      body.append(field);
      field.select();
      document.execCommand("copy");
      field.remove();
    }
    tell(`Copied ${what}`);
  };
  const button = (text, act, props = {}) => {
    const node = make("button", { type: "button", textContent: text, ...props });
    node.addEventListener("click", act);
    return node;
  };
  const slip = make("section", { className: "slip", ariaLabel: "What is read", tabIndex: 0 });
  const terms = (rows) => {
    const list = make("dl");
    for (const [name, value, about] of rows) {
      list.append(make("dt", { textContent: name }), make("dd", {}, make("b", { textContent: value }), about ? ` ${about}` : ""));
    }
    return list;
  };
  const heading = (text, copied) => make("h3", {}, text, copied ? button("copy", () => copy(copied, text.toLowerCase()), { ariaLabel: `Copy ${text.toLowerCase()}` }) : null);
  const pegRow = (letter) => {
    const peg = state.pegs[letter];
    return peg ? make("p", { className: letter }, make("b", { textContent: `${letter.toUpperCase()} ` }), peg.name) : null;
  };
  const distances = () => {
    const { a, b } = state.pegs;
    if (!a || !b) return make("p", { className: "path", textContent: "Set pegs A and B on two things to read how they lie to each other." });
    if (a.page !== b.page) return make("p", { textContent: "A and B are on different pages." });
    const [one, other] = [a.box, b.box];
    const along = (name, low, high, ways) => {
      const apart = gap(one[low], one[high], other[low], other[high]);
      const center = (other[low] + other[high] - one[low] - one[high]) / 2;
      return [[name, apart < 0 ? `overlap by ${say(-apart)}` : say(apart), "between edges"],
        ["", say(Math.abs(center)), center ? `${center > 0 ? ways[0] : ways[1]}, middles` : "middles"]];
    };
    const rows = [...along("across", "x", "right", ["right", "left"]), ...along("down", "y", "bottom", ["below", "above"])];
    const met = meetings(one, other);
    const exact = met.filter((one) => one.isExact).map((one) => one.name);
    if (exact.length) rows.push(["in line", exact.join("; "), ""]);
    for (const one of met.filter((one) => !one.isExact)) rows.push(["misses", one.name, `by ${say(one.off)}`]);
    const inner = holds(one, other) ? [other, one] : holds(other, one) ? [one, other] : null;
    if (inner) {
      const [box, outer] = inner;
      rows.push(["inside", [box.y - outer.y, outer.right - box.right, outer.bottom - box.bottom, box.x - outer.x].map(say).join(" "), "from the top, clockwise"]);
    }
    return terms(rows);
  };
  const read = () => {
    const thing = state.held ?? state.pointed;
    const pegs = make("div", { className: "pegs" }, heading("A and B"), pegRow("a"), pegRow("b"), distances());
    if (!thing) {
      slip.replaceChildren(make("div", {}, make("h2", { textContent: state.page.name }),
        terms([["size", `${say(state.page.width)} x ${say(state.page.height)}`, state.unit],
          ["content", say(state.page.content), `from ${say(state.page.left)}`]]),
        make("p", { className: "path", textContent: "Point at the mockup, or step with the arrow keys; ? lists the keys." })),
      make("div"), pegs, make("div"));
      return;
    }
    const { box, element, page } = thing;
    const near = neighbours(thing);
    const words = element.querySelector(".words"), type = element.querySelector(".type");
    const note = element.querySelector(".note"), declared = css(thing);
    const text = words ? words.innerText || words.textContent : "";
    const swatches = [...element.querySelectorAll(".colors span")].map((one) => {
      const node = button("", () => copy(one.dataset.color, "colour"), { className: "swatch", ariaLabel: `Copy ${one.textContent.trim()}` });
      const dot = make("i");
      dot.style.background = one.dataset.color;
      node.append(dot, one.textContent.trim());
      return node;
    });
    const variant = page.variants.find((one) => one.layer === thing.address);
    slip.replaceChildren(
      make("div", {},
        make("h2", { textContent: thing.name }),
        make("p", { className: "path", textContent: `${thing.sort}${thing.isHidden ? ", hidden" : ""}: ${thing.address}` }),
        make("div", { className: "row" },
          button("Peg A", () => peg("a"), { ariaPressed: String(state.pegs.a === thing) }),
          button("Peg B", () => peg("b"), { ariaPressed: String(state.pegs.b === thing) }),
          variant ? button(`Show ${variant.name}`, () => toggle(thing), { ariaPressed: String(thing.isOn) }) : null,
          state.held ? button("Let go", () => hold(null)) : null)),
      make("div", {}, heading("Place and size"), box.width === 0 ? null : terms([
        ["size", `${say(box.width)} x ${say(box.height)}`, state.unit],
        ["place", `${say(box.x)}, ${say(box.y)}`, "from left and top"],
        ...["left", "right", "above", "below"].map((side) => [side, say(near[side].gap), `to ${near[side].name}`]),
        ...(page.content ? [["share", `${Number((100 * box.width / page.content).toFixed(1))} %`, "of the content"]] : []),
      ])),
      pegs,
      make("div", {},
        text ? heading("Words", text) : null, text ? make("p", { textContent: text, className: "words" }) : null,
        type ? heading("Type", type.textContent) : null, type ? make("p", { textContent: type.textContent }) : null,
        swatches.length ? heading("Colours") : null, swatches.length ? make("div", { className: "row" }, ...swatches) : null,
        declared ? heading("CSS", declared) : null, declared ? make("pre", { textContent: declared }) : null,
        note ? make("p", { className: "note", textContent: note.textContent }) : null));
  };

  // Pointing, holding, pegs.
  const refresh = () => {
    redraw();
    read();
  };
  const mark = () => {
    for (const page of pages) {
      for (const thing of page.things) {
        const isHeld = thing === state.held;
        thing.element.setAttribute("aria-selected", String(isHeld));
        thing.element.querySelector(".peg")?.remove();
        for (const letter of ["a", "b"]) {
          if (state.pegs[letter] === thing) thing.element.append(make("span", { className: `peg ${letter}`, textContent: letter.toUpperCase() }));
        }
      }
    }
  };
  const hold = (thing, isScrolled = false) => {
    state.held = thing;
    mark();
    if (thing) {
      unfold(thing);
      thing.page.list.setAttribute("aria-activedescendant", thing.element.id);
      thing.element.scrollIntoView({ block: "nearest" });
      if (isScrolled) bring(thing.box);
    } else {
      state.page.list.removeAttribute("aria-activedescendant");
    }
    refresh();
  };
  const bring = (box) => {
    const { frame, plane } = state.page, z = state.zoom;
    const x = plane.offsetLeft - frame.offsetLeft + box.x * z, y = plane.offsetTop - frame.offsetTop + box.y * z;
    if (x < frame.scrollLeft || x + box.width * z > frame.scrollLeft + frame.clientWidth) frame.scrollLeft = x + box.width * z / 2 - frame.clientWidth / 2;
    if (y < frame.scrollTop || y + box.height * z > frame.scrollTop + frame.clientHeight) frame.scrollTop = y + box.height * z / 2 - frame.clientHeight / 2;
  };
  const peg = (letter) => {
    const thing = state.held ?? state.pointed;
    if (!thing) return;
    state.pegs[letter] = state.pegs[letter] === thing ? null : thing;
    mark();
    refresh();
    tell(state.pegs[letter] ? `Peg ${letter.toUpperCase()} on ${thing.name}` : `Peg ${letter.toUpperCase()} taken off`);
  };
  const toggle = (thing) => {
    const { page } = thing;
    const variant = page.variants.find((one) => one.layer === thing.address);
    if (!variant) return;
    thing.isOn = !thing.isOn;
    variant.image.hidden = !thing.isOn;
    for (const part of page.things) if (isPart(part, thing)) part.isOn = thing.isOn;
    thing.element.querySelector(".show").textContent = thing.isOn ? "on" : "off";
    refresh();
  };
  const at = (event) => {
    const { plane } = state.page, area = plane.getBoundingClientRect();
    return [(event.clientX - area.left) / state.zoom, (event.clientY - area.top) / state.zoom];
  };
  const under = ([x, y]) => {
    let best = null;
    for (const thing of state.page.things) {
      const { box } = thing, isSlice = thing.sort === "slice";
      if (isSlice !== state.over.slices || (!isSlice && !isDrawing(thing))) continue;
      if (x < box.x || y < box.y || x >= box.right || y >= box.bottom) continue;
      if (!best || box.width * box.height < best.box.width * best.box.height) best = thing;
    }
    return best;
  };

  // Stepping with the keyboard.
  const parent = (thing) => {
    const { things } = thing.page;
    for (let index = things.indexOf(thing) - 1; index >= 0; index -= 1) if (isPart(thing, things[index])) return things[index];
    return null;
  };
  const AWAY = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
  const step = (key) => {
    const from = state.held ?? state.pointed;
    const open = state.page.things.filter((thing) => (state.over.slices ? thing.sort === "slice" : isDrawing(thing)));
    if (!from) return hold(open[0] ?? null, true);
    const [dx, dy] = AWAY[key], here = [from.box.x + from.box.width / 2, from.box.y + from.box.height / 2];
    let best = null, least = Infinity;
    for (const thing of open) {
      if (thing === from || (holds(thing.box, from.box) && !isSame(thing.box, from.box))) continue;
      const off = [thing.box.x + thing.box.width / 2 - here[0], thing.box.y + thing.box.height / 2 - here[1]];
      const along = off[0] * dx + off[1] * dy, aside = Math.abs(off[0] * dy) + Math.abs(off[1] * dx);
      const cost = along + 2 * aside;
      if (along > 0.5 && cost < least) [best, least] = [thing, cost];
    }
    if (best) hold(best, true);
    return undefined;
  };
  const listed = (thing) => thing.page.things.filter((one) => !one.element.hidden);
  const turn = (by) => {
    const things = listed(state.held ?? state.page.things[0]);
    const index = state.held ? things.indexOf(state.held) + by : 0;
    if (things[index]) hold(things[index], true);
  };
  const into = () => {
    const { held } = state;
    if (!held) return;
    const part = held.page.things.find((one) => one.sort !== "slice" && isPart(one, held));
    if (part) hold(part, true);
  };

  // The list: folding and searching.
  const fold = (thing, isFolded) => {
    thing.isFolded = isFolded;
    sift(thing.page);
  };
  const unfold = (thing) => {
    let changed = false;
    for (let up = parent(thing); up && thing.sort !== "slice"; up = parent(up)) {
      changed ||= up.isFolded;
      up.isFolded = false;
    }
    if (changed) sift(thing.page);
  };
  const sift = (page) => {
    const wanted = find.value.trim().toLowerCase();
    let deepest = Infinity, count = 0;
    for (const thing of page.things) {
      const isSlice = thing.sort === "slice";
      if (isSlice || thing.depth <= deepest) deepest = Infinity;
      const isFound = !wanted || `${thing.address} ${thing.sort} ${thing.element.querySelector(".words")?.textContent ?? ""}`.toLowerCase().includes(wanted);
      thing.element.hidden = wanted ? !isFound : deepest < Infinity;
      thing.element.style.display = thing.element.hidden ? "none" : "";
      count += thing.element.hidden ? 0 : 1;
      if (thing.isFolded && deepest === Infinity && !isSlice) deepest = thing.depth;
      if (thing.hasParts) {
        thing.element.setAttribute("aria-expanded", String(!thing.isFolded));
        thing.element.querySelector(".fold").textContent = thing.isFolded ? "\u25b8" : "\u25be";
      }
    }
    found.textContent = wanted ? `${count} of ${page.things.length}` : "";
  };
  const find = make("input", { type: "search", placeholder: "Find a layer, slice or words", ariaLabel: "Find a layer, slice or words" });
  const found = make("output");
  find.addEventListener("input", () => sift(state.page));
  find.addEventListener("keydown", (event) => {
    if (event.key !== "ArrowDown" && event.key !== "Enter") return;
    event.preventDefault();
    state.page.list.focus();
    const first = state.page.things.find((thing) => !thing.element.hidden);
    if (first) hold(first, true);
  });
  const index = make("div", { className: "index" }, make("div", { className: "find" }, find, found));

  // Zooming.
  const zoom = (value, isKept = true) => {
    const { frame, plane } = state.page, before = state.zoom;
    state.zoom = Math.min(16, Math.max(0.05, value));
    const center = [frame.scrollLeft + frame.clientWidth / 2, frame.scrollTop + frame.clientHeight / 2];
    plane.style.width = `${state.page.width * state.zoom}px`;
    plane.classList.toggle("near", state.zoom > 3);
    if (isKept) {
      frame.scrollLeft = center[0] * state.zoom / before - frame.clientWidth / 2;
      frame.scrollTop = center[1] * state.zoom / before - frame.clientHeight / 2;
    }
    level.textContent = `${Math.round(100 * state.zoom * state.page.density)} %`;
    redraw();
  };
  const fit = () => zoom((state.page.frame.clientWidth - 72) / state.page.width, false);
  const level = make("output", { ariaLabel: "Enlarged" });

  // The tools in the head.
  const choice = (name, label, options, chosen, act) => {
    const select = make("select", { name });
    for (const [value, text] of options) select.append(make("option", { value, textContent: text, selected: value === chosen }));
    select.addEventListener("change", () => act(select.value));
    select.setAttribute("aria-label", label);
    return select;
  };
  const lay = (name, text) => {
    const node = button(text, () => {
      state.over[name] = !state.over[name];
      node.ariaPressed = String(state.over[name]);
      redraw();
    }, { ariaPressed: String(state.over[name]) });
    node.dataset.over = name;
    return node;
  };
  const overs = Object.fromEntries([["rulers", "Rulers"], ["grid", "Grid"], ["guides", "Guides"], ["slices", "Slices"]].map(([name, text]) => [name, lay(name, text)]));
  const theme = (name) => {
    root.dataset.theme = name;
    shade.ariaLabel = shade.title = name === "dark" ? "Light" : "Dark";
    if (state.page) redraw();
  };
  const shade = button("\u25d0", () => theme(root.dataset.theme === "dark" ? "light" : "dark"));
  const KEYS = [["Arrows", "to the next thing in that direction"], [", .", "to the one before or after it in the list"],
    ["Enter, Backspace", "into a group, out to the group around"], ["a, b", "peg A or B on it, or take it off"],
    ["x", "take both pegs off"], ["c", "copy its CSS; w its words"], ["v", "show a hidden layer"],
    ["r, g, l, s", "rulers, grid, guides, slices"], ["u", "next unit"], ["+ - 0 1", "larger, smaller, whole width, actual size"],
    ["/", "find"], ["Escape", "let go"]];
  const help = make("dialog", { ariaLabel: "Keys" }, make("h2", { textContent: "Keys" }));
  const keys = make("dl");
  for (const [key, about] of KEYS) keys.append(make("dt", {}, make("kbd", { textContent: key })), make("dd", { textContent: about }));
  help.append(keys, button("Close", () => help.close()));
  const unit = choice("unit", "Unit", [["px", "px"], ["rem", "rem"], ["vw", "vw"]], state.unit, (value) => { state.unit = value; refresh(); });
  const tools = make("div", { className: "tools" },
    pages.length > 1 ? choice("page", "Page", pages.map((page, number) => [String(number), page.name]), "0", (value) => enter(pages[value])) : null,
    unit,
    choice("scale", "Scale", [["css", "1x, as on the page"], ["mockup", "mockup pixels"], ["double", "2x"], ["half", "0.5x"]], "css", (value) => { state.scale = value; refresh(); }),
    make("span", { className: "set" }, button("\u2212", () => zoom(state.zoom / 1.25), { ariaLabel: "Smaller" }), level,
      button("+", () => zoom(state.zoom * 1.25), { ariaLabel: "Larger" }), button("Fit", fit)),
    make("span", { className: "set" }, ...Object.values(overs)),
    shade, button("Keys", () => help.showModal()));

  const press = (event) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const thing = state.held ?? state.pointed, { key } = event;
    const inList = event.currentTarget === state.page.list;
    const acts = {
      a: () => peg("a"), b: () => peg("b"), x: () => { state.pegs = { a: null, b: null }; mark(); refresh(); },
      c: () => thing && css(thing) && copy(css(thing), "CSS"),
      w: () => thing?.element.querySelector(".words") && copy(thing.element.querySelector(".words").innerText || thing.element.querySelector(".words").textContent, "words"),
      v: () => thing && toggle(thing), r: () => overs.rulers.click(), g: () => overs.grid.click(),
      l: () => overs.guides.click(), s: () => overs.slices.click(),
      u: () => { unit.selectedIndex = (unit.selectedIndex + 1) % 3; unit.dispatchEvent(new Event("change")); },
      "+": () => zoom(state.zoom * 1.25), "=": () => zoom(state.zoom * 1.25), "-": () => zoom(state.zoom / 1.25),
      0: fit, 1: () => zoom(1 / state.page.density), "/": () => find.focus(), "?": () => help.showModal(),
      Escape: () => hold(null), ",": () => turn(-1), ".": () => turn(1), Enter: into,
      Backspace: () => state.held && parent(state.held) && hold(parent(state.held), true),
    };
    if (inList) {
      Object.assign(acts, { ArrowDown: () => turn(1), ArrowUp: () => turn(-1), Home: () => hold(listed(state.page.things[0])[0], true),
        ArrowLeft: () => state.held && (state.held.hasParts && !state.held.isFolded ? fold(state.held, true) : acts.Backspace()),
        ArrowRight: () => state.held && state.held.hasParts && (state.held.isFolded ? fold(state.held, false) : into()) });
    }
    const act = acts[key] ?? (!inList && key in AWAY ? () => step(key) : null);
    if (!act) return;
    event.preventDefault();
    act();
  };

  const enter = (page) => {
    state.page = page;
    state.held = state.pointed = null;
    for (const other of pages) other.element.hidden = other !== page;
    find.value = "";
    index.append(page.list);
    for (const other of pages) other.list.hidden = other !== page;
    mark();
    sift(page);
    fit();
    read();
  };
  const show = () => {
    const wanted = location.hash.slice(1);
    const views = [...document.querySelectorAll(".view")];
    const here = views.find((view) => view.id === wanted) ?? views[0];
    for (const view of views) view.classList.toggle("here", view === here);
    for (const link of document.querySelectorAll(".head nav a")) {
      if (link.hash === `#${here.id}`) link.setAttribute("aria-current", "page");
      else link.removeAttribute("aria-current");
    }
    tools.hidden = here !== views[0];
    tools.style.display = tools.hidden ? "none" : "";
    if (here === views[0] && state.page && !state.page.plane.clientWidth) fit();
  };

  root.classList.add("live");
  document.querySelector(".head").append(tools);
  body.append(said, help);
  const mockups = document.querySelector("#mockups");
  mockups.prepend(index);
  mockups.append(slip);
  for (const view of document.querySelectorAll("#assets, #styles")) view.tabIndex = 0;
  for (const token of document.querySelectorAll(".tokens li")) {
    const [name, value] = [token.querySelector("b").textContent, token.querySelector("code").textContent];
    token.append(button("copy", () => copy(value, name), { ariaLabel: `Copy ${name}` }));
  }
  for (const page of pages) {
    page.list.setAttribute("role", "tree");
    page.list.tabIndex = 0;
    page.frame.tabIndex = 0;
    page.frame.setAttribute("role", "application");
    page.frame.setAttribute("aria-label", `The mockup ${page.name}: arrow keys step from thing to thing`);
    for (const thing of page.things) {
      const { element } = thing;
      element.setAttribute("role", "treeitem");
      element.setAttribute("aria-level", String(thing.depth + 1));
      element.setAttribute("aria-label", `${thing.name}, ${thing.sort}${thing.isHidden ? ", hidden" : ""}`);
      element.title = thing.address;
      element.style.paddingLeft = `${8 + 12 * thing.depth}px`;
      element.prepend(make("span", { className: "fold", ariaHidden: "true" }));
      element.querySelector(".fold").addEventListener("click", (event) => {
        event.stopPropagation();
        if (thing.hasParts) fold(thing, !thing.isFolded);
      });
      if (page.variants.some((one) => one.layer === thing.address)) {
        const eye = make("span", { className: "show", textContent: "off", ariaHidden: "true", title: "Show it, or hide it again" });
        eye.addEventListener("click", (event) => { event.stopPropagation(); toggle(thing); });
        element.append(eye);
      }
      element.addEventListener("click", () => hold(state.held === thing ? null : thing, true));
      element.addEventListener("pointerenter", () => { state.pointed = thing; redraw(); });
    }
    page.list.addEventListener("keydown", press);
    page.frame.addEventListener("keydown", press);
    page.plane.addEventListener("pointermove", (event) => {
      const thing = under(at(event));
      if (thing === state.pointed) return;
      state.pointed = thing;
      if (state.held) redraw();
      else refresh();
    });
    page.plane.addEventListener("pointerleave", () => { state.pointed = null; redraw(); });
    page.plane.addEventListener("click", (event) => {
      const thing = under(at(event));
      hold(thing === state.held ? null : thing);
      page.frame.focus({ preventScroll: true });
    });
    page.frame.addEventListener("wheel", (event) => {
      if (!event.ctrlKey) return;
      event.preventDefault();
      zoom(state.zoom * Math.exp(-event.deltaY / 300));
    }, { passive: false });
  }
  addEventListener("hashchange", show);
  theme(matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light");
  show();
  enter(pages[0]);
})();
