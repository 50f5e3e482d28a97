// While the pointer or the focus rests on a notch or on a station, the server is asked to make ready what a press would
// answer. A notch's answer is laid as it is pressed; the server then only says that it is written, or what stands instead.
"use strict";

(() => {
  // a pointer on its way across asks for nothing: it rests where it has not gone so far in so long
  const [REST_MS, REST_PX] = [30, 8];
  let timer = 0;
  let pointer = [0, 0];
  let asked = "";
  // a press's answer, with what would be put back if it is not written, and what its neighbours would do once they are there
  let ready = null;
  const pressable = (node) => node?.closest?.(".cell-form button, .rail a[hx-get]") || null;
  const resting = () => document.querySelector(".cell-form button:hover") || pressable(document.activeElement);

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
  const nameOf = (bench, path, said, page) => [bench.dataset.version, path, said, ...Object.values(page)].join();
  const get = (path, said, page) => fetch(`${path}?${said}`, { headers: { "HX-Request": "true", ...page }, priority: "low" }).catch(() => null);

  // the bench as it stands, without what is under way in it and what is the person's
  function standing(bench) {
    const was = bench.cloneNode(true);
    was.querySelectorAll("[data-own]").forEach((e) => e.remove());
    was.querySelectorAll(".htmx-request, .pressed").forEach((e) => e.classList.remove("htmx-request", "pressed"));
    return was;
  }

  // "" where the server was asked for something else meanwhile
  async function neighboursOf(path, said, bench, open) {
    const have = [...bench.querySelectorAll("[data-mark], [data-same]")].map((e) => e.dataset.mark || e.dataset.same).join(" ");
    const { version } = bench.dataset;
    const answer = await get(`${path}neighbours/`, said, { "X-Open": open, "X-Have": have });
    return answer?.status === 200 && answer.headers.get("HX-Version") === version ? answer.text().catch(() => "") : "";
  }

  async function ask(it) {
    const bench = byId("bench");
    if (!bench || !it.isConnected || document.hidden) return;
    const [path, said, page] = press(it, bench);
    const name = nameOf(bench, path, said, page);
    if (asked === name) return;
    asked = name;
    const answer = await get(`${path}ahead/`, said, page);
    if (!answer && asked === name) asked = "";
    if (answer?.status !== 200) return;
    const html = await answer.text().catch(() => "");
    const now = new DOMParser().parseFromString(html, "text/html").getElementById("bench");
    if (!now || asked !== name || bench !== byId("bench") || nameOf(bench, ...press(it, bench)) !== name) return;
    ready = { name, now, shown: answer.headers.get("X-Shown"), was: standing(bench), notches: null };
    if (resting() === it) ready.notches = neighboursOf(path, said, now, page["X-Open"]);
  }

  function rest(event) {
    clearTimeout(timer);
    const it = pressable(event.target);
    if (it) watch(it);
  }

  function watch(it) {
    const [x, y] = pointer;
    timer = setTimeout(() => { if (Math.hypot(pointer[0] - x, pointer[1] - y) > REST_PX) watch(it); else askAtRest(it); }, REST_MS);
  }

  // what the last step does to its neighbours comes first: then what comes next is asked for, see below
  function askAtRest(it) {
    const part = byId("notches");
    if (it.matches("a") || !part?.hasAttribute("hx-get") || part.dataset.fresh) ask(it);
  }

  document.addEventListener("pointermove", (event) => { pointer = [event.clientX, event.clientY]; }, { passive: true });
  document.addEventListener("pointerover", rest);
  document.addEventListener("focusin", rest);
  document.addEventListener("pointerdown", (event) => {
    const it = pressable(event.target);
    if (it) { clearTimeout(timer); ask(it); }
  });
  // who steps on and on stays where it is pressed
  document.addEventListener("htmx:afterSettle", (event) => {
    const it = event.target.id === "notches" && resting();
    if (it) ask(it);
  });

  document.addEventListener("htmx:configRequest", ({ detail }) => {
    const [bench, button] = [byId("bench"), detail.elt.matches(".cell-form") && detail.elt.querySelector("button")];
    if (ready && button && nameOf(bench, ...press(button, bench)) === ready.name) detail.headers["X-Shown"] = ready.shown;
  });
  document.addEventListener("htmx:beforeSend", ({ detail: { xhr, requestConfig } }) => {
    if (!ready || requestConfig.headers["X-Shown"] !== ready.shown) return;
    const { now, was, notches } = ready;
    ready = null;
    // first it is sent
    queueMicrotask(() => layOver(byId("bench"), now));
    // before htmx sends what waits behind it; the form that was pressed may have gone, and its events with it
    xhr.addEventListener("readystatechange", () => {
      if (xhr.readyState !== XMLHttpRequest.DONE) return;
      if (xhr.status === 204) written(notches, now.dataset.version);
      // another answer is laid over it; what was not taken goes back to what stood
      else if (![200, 409, 422].includes(xhr.status)) {
        asked = "";
        const bench = byId("bench");
        // what was pressed on it meanwhile was meant for what did not come: above all, nothing is kept that was not seen
        bench["htmx-internal-data"]?.queuedRequests?.splice(0);
        layOver(bench, was);
        tell(noteOf(xhr.status), "bench");
      }
    });
  });

  async function written(notches, version) {
    unpress();
    askOn(["findings"]);
    const html = await notches;
    const part = byId("notches");
    if (!part || byId("bench").dataset.version !== version) return;
    if (html) htmx.swap(part, html, { swapStyle: "lay", swapDelay: 0, settleDelay: 0 }, { contextElement: part, eventInfo: { target: part, elt: part } });
    else askOn(["notches"]);
  }
})();
