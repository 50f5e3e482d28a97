// While the pointer or the focus rests on a notch or on a station, the server is asked to make ready what a press would
// answer.
"use strict";

(() => {
  // a pointer on its way across asks for nothing
  const REST_MS = 50;
  let timer = 0;
  let asked = "";
  const pressable = (node) => node?.closest?.(".cell-form button, .rail a[hx-get]") || null;

  // where a press goes, what it says, and what is said of the page
  function press(it, bench) {
    if (it.matches("a")) {
      const [path, place] = it.getAttribute("hx-get").split("?");
      return [path, place || "", {}];
    }
    const { version, at } = bench.dataset;
    const said = new URLSearchParams({ moves: it.form.elements.moves.value, version, ...(at && { at }) });
    return [it.form.getAttribute("hx-post").replace(/notch\/$/, ""), said, has(bench)];
  }

  function ask(it) {
    const bench = byId("bench");
    if (!bench || !it.isConnected || document.hidden) return;
    const [path, said, page] = press(it, bench);
    const all = [bench.dataset.version, path, said, ...Object.values(page)].join();
    if (asked === all) return;
    asked = all;
    fetch(`${path}ahead/?${said}`, { headers: { "HX-Request": "true", ...page }, priority: "low" }).catch(() => { asked = ""; });
  }

  function rest(event) {
    clearTimeout(timer);
    const it = pressable(event.target);
    if (it) timer = setTimeout(ask, REST_MS, it);
  }

  document.addEventListener("pointerover", rest);
  document.addEventListener("focusin", rest);
  document.addEventListener("pointerdown", (event) => {
    const it = pressable(event.target);
    if (it) { clearTimeout(timer); ask(it); }
  });
  // who steps on and on stays where it is pressed
  document.addEventListener("htmx:afterSettle", (event) => {
    const it = event.target.id === "notches" && (document.querySelector(".cell-form button:hover") || pressable(document.activeElement));
    if (it) ask(it);
  });
})();
