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
    unstyled: () => {
      const last = sheets.pop();
      document.adoptedStyleSheets = document.adoptedStyleSheets.filter(sheet => sheet !== last);
    },
  };
}
