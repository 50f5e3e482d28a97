// While the pointer or the focus rests on a notch, the server is asked to make ready what a press would answer.
"use strict";

(() => {
  // a pointer on its way across the rows asks for nothing
  const REST_MS = 60;
  let timer = 0;
  let asked = "";
  const notchOf = (node) => node?.closest?.(".cell-form button") || null;

  function ask(button) {
    const bench = byId("bench");
    const path = bench && button.isConnected && button.form.getAttribute("hx-post");
    if (!path || document.hidden) return;
    const { version, at } = bench.dataset;
    const said = new URLSearchParams({ moves: button.form.elements.moves.value, version, ...(at && { at }) });
    const headers = { "HX-Request": "true", ...has(bench) };
    const all = `${path}${said}${headers["X-Open"]}${headers["X-Have"]}`;
    if (asked === all) return;
    asked = all;
    fetch(`${path.replace(/notch\/$/, "ahead/")}?${said}`, { headers, priority: "low" }).catch(() => { asked = ""; });
  }

  function rest(event) {
    clearTimeout(timer);
    const button = notchOf(event.target);
    if (button) timer = setTimeout(ask, REST_MS, button);
  }

  document.addEventListener("pointerover", rest);
  document.addEventListener("focusin", rest);
  document.addEventListener("pointerdown", (event) => {
    const button = notchOf(event.target);
    if (button) { clearTimeout(timer); ask(button); }
  });
  // who steps on and on stays where it is pressed
  document.addEventListener("htmx:afterSettle", (event) => {
    const button = event.target.id === "notches" && (document.querySelector(".cell-form button:hover") || notchOf(document.activeElement));
    if (button) ask(button);
  });
})();
