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
  </style><div class="over" hidden><img alt=""><div class="marks" hidden></div></div>`);
  const [, root] = hosted("riffler-preview", `<style>
    :host { all: initial; }
    .bar { position: fixed; right: 12px; bottom: 12px; z-index: 2147483001; display: none; gap: 10px;
      align-items: center; padding: 8px 12px; border-radius: 8px; background: #26241f; color: #f7f5f0;
      font: 13px/18px system-ui; box-shadow: 0 4px 16px #0006; }
    .bar.shown { display: flex; }
    .wrong { position: fixed; left: 12px; right: 12px; top: 12px; z-index: 2147483002; display: none;
      padding: 12px 16px; border-radius: 8px; background: #8a1f11; color: #fff;
      font: 14px/20px ui-monospace, monospace; white-space: pre-wrap; }
    .wrong.shown { display: block; }
    button { font: inherit; color: inherit; background: none; border: 1px solid #7a756a; border-radius: 5px;
      padding: 1px 8px; }
    button[aria-pressed="true"] { background: #f7f5f0; color: #26241f; }
  </style>
  <div class="wrong" role="alert"></div>
  <div class="bar" role="toolbar" aria-label="Mockup">
    <label>Mockup <input type="range" min="0" max="100" value="50"></label>
    <button data-way="difference">difference</button><button data-way="blink">blink</button>
    <button data-way="beside">beside</button><button data-way="marks">slices</button>
  </div>`);
  const find = name => root.querySelector(name) || laid.querySelector(name), over = find(".over"), image = find(".over img"),
    marks = find(".marks"), bar = find(".bar"), wrong = find(".wrong"), slider = find("input");
  let last = 0, blink = 0, known = null;
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
  const listen = () => {
    const events = new EventSource(`${own}/events?after=${last}`);
    events.onmessage = event => {
      const news = JSON.parse(event.data);
      last = news.number;
      wrong.textContent = news.mistake;
      wrong.classList.toggle("shown", Boolean(news.mistake));
      if (news.mistake || !news.files.length) return;
      if (news.files.some(file => /\.(html|js)$/.test(file))) location.reload();
      else swap(news.files);
      if (known && over.hidden === false) show();
    };
  };
  const show = async () => {
    const answer = await (await fetch(`${own}/mockups?page=${encodeURIComponent(page)}`)).json();
    known = answer.mockups;
    const fits = known.filter(one => !one.when || matchMedia(one.when).matches);
    const one = fits.find(each => each.when) || fits[0];
    over.hidden = !one;
    bar.classList.toggle("shown", Boolean(one));
    if (!one) return;
    image.src = `${own}/mockup/${encodeURIComponent(one.name)}?now=${last}`;
    image.width = one.width;
    image.height = one.height;
    marks.replaceChildren(...one.slices.map(slice => {
      const box = document.createElement("div");
      box.textContent = slice.name;
      for (const [name, value] of [["left", slice.x], ["top", slice.y], ["width", slice.width],
        ["height", slice.height]]) box.style[name] = `${value}px`;
      return box;
    }));
    paint();
  };
  const paint = () => {
    image.style.opacity = kept.way === "difference" ? 1 : slider.value / 100;
    over.style.mixBlendMode = kept.way === "difference" ? "difference" : "normal";
    host.style.mixBlendMode = over.style.mixBlendMode;
    over.style.transform = kept.way === "beside" ? "translateX(50%)" : "translateX(-50%)";
    if (kept.way === "beside") image.style.opacity = 1;
    marks.hidden = !kept.marks;
    clearInterval(blink);
    over.style.visibility = "";
    if (kept.way === "blink") {
      image.style.opacity = 1;
      blink = setInterval(() => {
        over.style.visibility = over.style.visibility ? "" : "hidden";
      }, 500);
    }
    for (const one of root.querySelectorAll("button")) {
      const is = one.dataset.way === "marks" ? kept.marks : kept.way === one.dataset.way;
      one.setAttribute("aria-pressed", Boolean(is));
    }
    keep();
  };
  const toggle = () => {
    kept.shown = !kept.shown;
    keep();
    if (kept.shown) show();
    else { over.hidden = true; bar.classList.remove("shown"); }
  };
  slider.oninput = () => { kept.way = ""; paint(); };
  for (const one of root.querySelectorAll("button")) one.onclick = () => {
    if (one.dataset.way === "marks") kept.marks = !kept.marks;
    else kept.way = kept.way === one.dataset.way ? "" : one.dataset.way;
    paint();
  };
  addEventListener("keydown", event => {
    const writes = event.target instanceof Element && event.target.closest("input, textarea, select");
    if (!writes && event.key === "m" && !event.ctrlKey && !event.metaKey) toggle();
  });
  if (kept.shown || new URLSearchParams(location.search).has("mockup")) { kept.shown = true; show(); }
  listen();
})();
