// The preview's part of a page: swaps what changed, shows what is wrong, lays the mockup over.
(() => {
  "use strict";
  const own = "/_riffler", page = location.pathname.replace(/^\//, "").replace(/(^|\/)$/, "$1index")
    .replace(/\.html$/, "");
  const hosted = (id, inner) => {  // the mockup blends with the page: what is told of it must not
    const host = document.createElement("div");
    host.id = id;
    const shadow = host.attachShadow({mode: "open"});
    shadow.innerHTML = inner;
    document.documentElement.append(host);
    return [host, shadow];
  };
  const [host, laid] = hosted("riffler-mockup", `<style>
    :host { all: initial; }
    .over { position: absolute; top: 0; left: 50%; transform: translateX(-50%); z-index: 2147483000;
      pointer-events: none; }
    .over img { display: block; }
    .marks { position: absolute; inset: 0; }
    .marks div { position: absolute; outline: 1px solid #0b6e7d; color: #0b6e7d; font: 11px/14px system-ui; }
    .marks span { background: #f7f5f0d9; padding: 0 3px; }
    .guides div { outline: 0; }
    .guides .x { top: 0; bottom: 0; border-left: 1px dashed #a3187a; color: #a3187a; }
    .guides .y { left: 0; right: 0; border-top: 1px dashed #a3187a; color: #a3187a; }
    .grid div { top: 0; bottom: 0; outline: 0; background: #0b6e7d26; }
  </style><div class="over" hidden><img alt=""><div class="marks grid" data-of="grid" hidden></div>
  <div class="marks guides" data-of="guides" hidden></div><div class="marks" data-of="slices" hidden></div></div>`);
  const [, root] = hosted("riffler-preview", `<style>
    :host { all: initial; }
    .bar { position: fixed; right: 12px; bottom: 12px; z-index: 2147483001; display: none; gap: 8px;
      flex-wrap: wrap; align-items: center; max-width: calc(100vw - 24px); box-sizing: border-box; padding: 8px 12px; border-radius: 8px; background: #26241f; color: #f7f5f0;
      font: 13px/18px system-ui; box-shadow: 0 4px 16px #0006; }
    .bar.shown { display: flex; }
    .wrong { position: fixed; left: 12px; right: 12px; top: 12px; z-index: 2147483002; display: none;
      padding: 12px 16px; border-radius: 8px; background: #8a1f11; color: #fff;
      font: 14px/20px ui-monospace, monospace; white-space: pre-wrap; }
    .wrong.shown { display: block; }
    button { font: inherit; color: inherit; background: none; border: 1px solid #7a756a; border-radius: 5px;
      padding: 1px 8px; }
    button[aria-pressed="true"] { background: #f7f5f0; color: #26241f; }
    .fit { flex-basis: 100%; margin: 0; color: #d9d3c5; }
    .fit:empty { display: none; }
    .fit b { color: #f7f5f0; font-weight: 600; }
    .fit ul { margin: 4px 0 0; padding: 0; list-style: none; max-height: 30vh; overflow: auto; }
  </style>
  <div class="wrong" role="alert"></div>
  <div class="bar" role="toolbar" aria-label="Mockup">
    <label><span>Mockup</span> <input type="range" min="0" max="100" value="50"></label>
    <button data-way="difference">difference</button><button data-way="blink">blink</button>
    <button data-way="beside">beside</button><button data-marks="slices">slices</button>
    <button data-marks="guides">guides</button><button data-marks="grid">grid</button>
    <button data-widths>widths</button>
    <div class="fit" role="status"></div>
  </div>`);
  const find = name => root.querySelector(name) || laid.querySelector(name), over = find(".over"), image = find(".over img"),
    marks = [...laid.querySelectorAll(".marks")], bar = find(".bar"), wrong = find(".wrong"), slider = find("input");
  let last = Number(document.currentScript.dataset.after), blink = 0, known = null;
  const kept = JSON.parse(sessionStorage.getItem("riffler-preview") || "{}");
  const keep = () => sessionStorage.setItem("riffler-preview", JSON.stringify(kept));

  const fresh = (address, files) => {
    const url = new URL(address, location.href), file = decodeURIComponent(url.pathname.slice(1));
    if (url.origin !== location.origin || !files.includes(file)) return null;
    url.searchParams.set("now", last);
    return url.href;
  };
  const swap = files => {
    for (const link of document.querySelectorAll('link[rel="stylesheet"]')) {
      const sheet = [...files].some(file => /\.(png|jpe?g|webp|avif|svg|gif|woff2)$/.test(file));
      const href = fresh(link.href, files) || (sheet && fresh(link.href, [new URL(link.href).pathname.slice(1)]));
      if (!href) continue;
      const next = link.cloneNode();
      next.href = href;
      next.onload = () => link.remove();
      link.after(next);
    }
    for (const one of document.querySelectorAll("img, source")) {
      for (const name of ["src", "srcset"]) {
        const said = one.getAttribute(name);
        if (!said) continue;
        const parts = said.split(/,\s+/).map(part => {
          const [address, ...rest] = part.trim().split(/\s+/);
          return [fresh(address, files) || address, ...rest].join(" ");
        }).join(", ");
        if (parts !== said) one.setAttribute(name, parts);
      }
    }
  };
  // One page of all that are open has a line to the server and tells the others: a browser keeps six connections
  // to a host, and pictures need some. Who has the lock listens; when it is closed, the next one does.
  const channel = new BroadcastChannel("riffler-preview");
  const listen = () => {
    channel.onmessage = event => told(event.data);
    navigator.locks.request("riffler-preview", () => new Promise(() => {
      const events = new EventSource(`${own}/events?after=${last}`);
      events.onmessage = event => {
        const news = JSON.parse(event.data);
        channel.postMessage(news);
        told(news);
      };
    }));
    fetch(`${own}/news?after=${last}`).then(answer => answer.json()).then(missed => missed.forEach(told)).catch(() => {});
  };
  const told = news => {
    if (news.number > last) {
      last = news.number;
      wrong.textContent = news.mistake;
      wrong.classList.toggle("shown", Boolean(news.mistake));
      if (news.fits) fit(news.fits);
      if (news.mistake || !news.files.length) return;
      if (news.files.some(file => /\.(html|js)$/.test(file))) location.reload();
      else swap(news.files);
      if (known && over.hidden === false) show();
    }
  };
  const fit = fits => {  // how well the page lies on its mockup, as it was measured last
    const one = fits[page], place = find(".fit"), line = (name, text) => {
      const item = document.createElement("li");
      item.append(Object.assign(document.createElement("b"), {textContent: name}), text);
      return item;
    };
    place.replaceChildren();
    if (!one) return;
    const list = document.createElement("ul");
    list.append(...one.findings.map(({name, says}) => line(name, `: ${says}`)));
    if (one.more) list.append(line("", `and ${one.more} more: riffler fit`));
    place.append(line(`${one.fitting} of ${one.things}`, " fit within 1 px"), list);
  };
  const placed = (text, name, edges) => {
    const box = document.createElement("div");
    if (text) box.append(Object.assign(document.createElement("span"), {textContent: text}));
    box.className = name;
    for (const [edge, at] of Object.entries(edges)) box.style[edge] = `${at}px`;
    return box;
  };
  const show = async () => {
    const answer = await (await fetch(`${own}/mockups?page=${encodeURIComponent(page)}`)).json();
    known = answer.mockups;
    const fits = known.filter(one => one.when ? matchMedia(one.when).matches : innerWidth > one.width * 0.7);
    const one = fits.find(each => each.when) || fits[0];
    over.hidden = !one;
    bar.classList.add("shown");
    fetch(`${own}/fits?page=${encodeURIComponent(page)}`).then(answer => answer.json()).then(fit).catch(() => {});
    find("label span").textContent = one ? "Mockup" : "No mockup for this width";
    slider.hidden = !one;
    if (!one) return;
    image.src = `${own}/mockup/${encodeURIComponent(one.name)}?now=${last}`;
    image.width = one.width;
    image.height = one.height;
    const boxes = {
      slices: one.slices.map(({name, x, y, width, height}) => placed(name, "", {left: x, top: y, width, height})),
      guides: one.guides.map(([axis, name, at]) => placed(name, axis, {[axis === "x" ? "left" : "top"]: at})),
      grid: one.columns.map(([start, end]) => placed("", "", {left: start, width: end - start})),
    };
    for (const each of marks) each.replaceChildren(...boxes[each.dataset.of]);
    for (const each of root.querySelectorAll("[data-marks]")) each.hidden = !boxes[each.dataset.marks].length;
    paint();
  };
  const paint = () => {
    image.style.opacity = kept.way === "difference" ? 1 : slider.value / 100;
    over.style.mixBlendMode = kept.way === "difference" ? "difference" : "normal";
    host.style.mixBlendMode = over.style.mixBlendMode;
    over.style.transform = kept.way === "beside" ? "translateX(50%)" : "translateX(-50%)";
    if (kept.way === "beside") image.style.opacity = 1;
    for (const each of marks) each.hidden = !kept.marks?.includes(each.dataset.of);
    clearInterval(blink);
    over.style.visibility = "";
    if (kept.way === "blink") {
      image.style.opacity = 1;
      blink = setInterval(() => {
        over.style.visibility = over.style.visibility ? "" : "hidden";
      }, 500);
    }
    for (const one of root.querySelectorAll("button")) {
      const {marks, way} = one.dataset, is = marks ? kept.marks?.includes(marks) : way && kept.way === way;
      one.setAttribute("aria-pressed", Boolean(is));
    }
    keep();
  };
  const widths = () => {  // in a frame of ours the next one, else the page in such a frame
    if (parent !== window) parent.postMessage("riffler-width", location.origin);
    else location.href = `${own}/widths?page=${encodeURIComponent(location.pathname)}`;
  };
  const toggle = () => {
    kept.shown = !kept.shown;
    keep();
    if (kept.shown) show();
    else { over.hidden = true; bar.classList.remove("shown"); }
  };
  slider.oninput = () => { kept.way = ""; paint(); };
  for (const one of root.querySelectorAll("button")) one.onclick = () => {
    const {marks: of, way} = one.dataset;
    if ("widths" in one.dataset) return widths();
    if (of) kept.marks = kept.marks?.includes(of) ? kept.marks.filter(each => each !== of) : [...kept.marks || [], of];
    else kept.way = kept.way === way ? "" : way;
    paint();
  };
  addEventListener("resize", () => { if (kept.shown) show(); });
  addEventListener("keydown", event => {
    const writes = event.target instanceof Element && event.target.closest("input, textarea, select");
    if (writes || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === "m") toggle();
    if (event.key === "w") widths();
  });
  if (kept.shown || new URLSearchParams(location.search).has("mockup")) { kept.shown = true; show(); }
  listen();
})();
