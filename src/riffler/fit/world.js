// What our scripts in a page have in common. A page's names can hide what forms and documents have by themselves
// (`<input name="id">`, `<img name="body">`; HTML, 2.3.2, [LegacyOverrideBuiltIns]): `of` and `doc` go past them.
() => {
  const plain = thing => new Proxy(thing, {
    get: (on, name) => {
      const value = Reflect.get(Object.getPrototypeOf(on), name, on);
      return typeof value === "function" ? value.bind(on) : value;
    },
    set: (on, name, value) => Reflect.set(Object.getPrototypeOf(on), name, value, on),
  });
  const of = e => e instanceof HTMLFormElement ? plain(e) : e, doc = plain(document), sheets = [];
  globalThis.riffler = {
    of, doc, elements: [], chain: [],
    // Adds a style sheet that no policy of the page forbids; `unstyled` takes the last one away.
    styled: text => {
      const sheet = new CSSStyleSheet();
      sheet.replaceSync(text);
      sheets.push(sheet);
      document.adoptedStyleSheets = [...document.adoptedStyleSheets, sheet];
    },
    // Whether an element, or one that it is in, stays where it is in the window.
    stays: e => {
      for (let around = e; around; around = of(around).parentElement)
        if (/fixed|sticky/.test(getComputedStyle(around).position)) return true;
      return false;
    },
    // Goes down the page, and tells of each point of an element (`e`, `x`, `y` on the page) what lies topmost there:
    // another element that neither holds it nor is in it, or null.
    above: (points, tell) => {
      for (let y = 0; points.length && y < doc.documentElement.scrollHeight; y += innerHeight) {
        scrollTo(0, y);
        for (const point of points) {
          const down = point.y - scrollY, {e} = point;
          if (point.done || down < 0 || down >= innerHeight) continue;
          point.done = true;
          const top = doc.elementFromPoint(point.x - scrollX, down);
          if (top) tell(point, top === e || of(e).contains(top) || of(top).contains(e) ? null : top);
        }
      }
    },
    unstyled: () => {
      const last = sheets.pop();
      document.adoptedStyleSheets = document.adoptedStyleSheets.filter(sheet => sheet !== last);
    },
  };
}
