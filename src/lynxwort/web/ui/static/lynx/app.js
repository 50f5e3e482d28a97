// Moves things on the screen: keys, sheets, the ribbon's words, the drawers. No calculation of the job.
"use strict";

document.addEventListener("alpine:init", () => {
  Alpine.data("bench", () => ({
    railOpen: false,
    ledgerOpen: false,
    closeRail() { this.railOpen = false; },
    get railClass() { return this.railOpen ? "open" : ""; },
    get ledgerClass() { return this.ledgerOpen ? "open" : ""; },
    toggleRail() { this.railOpen = !this.railOpen; this.ledgerOpen = false; },
    toggleLedger() { this.ledgerOpen = !this.ledgerOpen; this.railOpen = false; },
    showKeys() { open("keys-dialog"); },
  }));
});

const byId = (id) => document.getElementById(id);
const open = (id) => { const d = byId(id); if (d && !d.open) d.showModal(); };
const press = (selector) => { const b = document.querySelector(selector); if (b) b.click(); };
const KEYS_OFF = "lynxwort-keys-off";
let row = 0;

// where the arrows stop: rows, and headings of groups that are closed
const STOPS = ".notch-row, .notch-group";
function rows() {
  const shut = ".notch-group:not([open])";
  return [...document.querySelectorAll(STOPS)].filter((e) => (e.matches(".notch-group") ? e.matches(shut) : !e.closest(shut)));
}

function rowInFocus() {
  const all = rows();
  const at = all.indexOf(document.activeElement && document.activeElement.closest(STOPS));
  if (at >= 0) row = at;
  return all[Math.min(row, all.length - 1)];
}

function moveRow(by) {
  const all = rows();
  if (!all.length) return;
  const inside = document.activeElement && document.activeElement.closest(STOPS);
  const at = all.indexOf(inside);
  if (at >= 0) row = Math.max(0, Math.min(all.length - 1, at + by));
  // from the heading of an open group to its first row
  else if (inside) row = Math.max(0, all.indexOf(inside.querySelector(".notch-row")));
  const target = all[Math.min(row, all.length - 1)].querySelector("summary");
  target.focus();
  target.scrollIntoView({ block: "nearest" });
}

function stepNotch(side) {
  const here = rowInFocus();
  const button = here && here.querySelector(`button[data-side="${side}"]`);
  if (button) { button.focus(); button.click(); }
}

function stepRoom(by) {
  const rooms = [...document.querySelectorAll(".rooms a")];
  const next = rooms[rooms.findIndex((a) => a.matches("[aria-current]")) + by];
  if (next) next.click();
}

function onKey(event) {
  if (event.ctrlKey || event.metaKey || event.altKey || localStorage.getItem(KEYS_OFF)) return;
  if (event.target.closest("input:not([type=checkbox]):not([type=range]), textarea, select, dialog")) return;
  if (event.target.type === "range" && event.key.startsWith("Arrow")) return;
  const station = document.querySelector(`.rail a[data-key="${event.key}"]`);
  const known = {
    "-": () => stepNotch("less"), "+": () => stepNotch("more"), "=": () => stepNotch("more"),
    ArrowDown: () => moveRow(1), ArrowUp: () => moveRow(-1),
    "[": () => stepRoom(-1), "]": () => stepRoom(1),
    n: () => press(".next"), w: () => press(".finding .why"), z: () => press("#take-back"), c: () => press(".rail a[data-key='0']"),
    k: () => { const keep = byId("keep"); if (keep) { keep.open = true; byId("reason").focus(); } },
    "?": () => open("keys-dialog"), "/": () => open("search-dialog"),
  };
  if (station) { event.preventDefault(); station.click(); return; }
  if (known[event.key]) { event.preventDefault(); known[event.key](); }
}

// the words along the lap are fetched at the first drag, once a draft
let along = { of: "", words: null };

async function fetchWords({ base, version }) {
  // what is asked for goes with the part of the round that the ribbon shows
  const of = base + version + byId("scrub").min;
  if (along.of === of) return;
  along = { of, words: null };
  const asked = along;
  const answer = await fetch(`${base}along/`).catch(() => null);
  if (!answer || !answer.ok) { along = { of: "", words: null }; return; }
  asked.words = await answer.json().catch(() => null);
  scrubWords(byId("scrub"));
}

function scrubWords(input) {
  fetchWords(byId("bench").dataset);
  const [place, words] = [byId("place"), along.words];
  if (!words) return;
  const pair = words[Math.round((words.length - 1) * (input.value - input.min) / (input.max - input.min))];
  const [first, second] = [document.createElement("b"), document.createElement("span")];
  first.textContent = pair[0];
  second.textContent = " " + pair[1];
  place.replaceChildren(first, second);
}

// what the address names is opened: a place's facts
function openNamed() {
  const named = location.hash.length > 1 && byId(location.hash.slice(1));
  if (!named || !named.matches("details")) return;
  named.open = true;
  named.scrollIntoView({ block: "start" });
  named.querySelector("summary").focus({ preventScroll: true });
}
window.addEventListener("hashchange", openNamed);
// only the fields whose words are looked for, their groups opened
function findFields(input) {
  const words = input.value.toLowerCase().split(/\s+/).filter(Boolean);
  let found = 0;
  document.querySelectorAll(input.dataset.find).forEach((group) => {
    let here = 0;
    group.querySelectorAll(".field").forEach((field) => {
      const text = field.textContent.toLowerCase();
      field.hidden = !words.every((word) => text.includes(word));
      here += !field.hidden;
    });
    group.hidden = !here;
    if (words.length) group.open = here > 0;
    found += here;
  });
  const none = input.parentElement.querySelector("[data-none]");
  none.textContent = found ? "" : none.dataset.none;
}
document.addEventListener("input", (event) => { if (event.target.dataset.find) findFields(event.target); });

document.addEventListener("keydown", onKey);
document.addEventListener("input", (event) => { if (event.target.id === "scrub") scrubWords(event.target); });
document.addEventListener("change", (event) => {
  if (event.target.id !== "keys-on") return;
  if (event.target.checked) localStorage.removeItem(KEYS_OFF); else localStorage.setItem(KEYS_OFF, "1");
});
document.addEventListener("click", (event) => {
  if (event.target.closest("[data-print]")) window.print();
  const opener = event.target.closest("[data-open]");
  if (opener) open(opener.dataset.open);
  if (event.target.tagName === "DIALOG") event.target.close();
});
// a long list stands in the page once: a select takes it over when it is reached for
function fill(event) {
  const select = event.target.closest?.("select[data-fill]");
  if (!select) return;
  const now = select.value;
  select.replaceChildren(byId(select.dataset.fill).content.cloneNode(true));
  select.value = now;
  delete select.dataset.fill;
}
["focusin", "pointerover", "pointerdown"].forEach((reach) => document.addEventListener(reach, fill));
document.addEventListener("DOMContentLoaded", () => {
  const room = document.querySelector(".rooms [aria-current]");
  if (room) room.parentElement.scrollLeft = room.offsetLeft - room.parentElement.offsetLeft - 40;
  const box = byId("keys-on");
  if (box) box.checked = !localStorage.getItem(KEYS_OFF);
  document.querySelectorAll(".find[hidden]").forEach((find) => { find.hidden = false; });
  openNamed();
  // what was refused is gone to
  const bad = document.querySelector(".sheet .field.bad :is(input, select, textarea)");
  if (bad) {
    bad.closest("details:not([open])")?.setAttribute("open", "");
    // a place that the address still names would take the focus away again
    history.replaceState(history.state, "", location.pathname + location.search);
    bad.focus();
  }
  // a call-out of a drawing leads to a notch: its group is opened first, its row comes into view
  const group = byId(new URLSearchParams(location.search).get("to") || "");
  if (group) group.open = true;
  showRow();
  if (document.querySelector("[data-warming]")) setTimeout(() => location.reload(), 900);
});
// a word of the trade says what it means where it stands; with a modifier it opens the page of words as any link
document.addEventListener("click", (event) => {
  const word = event.target.closest("a.term");
  if (!word || event.ctrlKey || event.metaKey || event.shiftKey || !byId("word")) return;
  event.preventDefault();
  htmx.ajax("GET", `${word.pathname}${word.hash.slice(1)}/`, { target: "#word", swap: "innerHTML" });
});
// who signs out leaves no sheets in the phone
document.addEventListener("submit", (event) => {
  if (!event.target.matches("[data-forget]") || !window.isSecureContext) return;
  caches.delete("sheets");
  localStorage.removeItem("sheets-kept");
});
document.addEventListener("htmx:afterSwap", (event) => {
  if (event.target.id === "why") open("why-dialog");
  if (event.target.id === "word") open("word-dialog");
  // only what was asked for after a press was lost tells that the van is in reach again
  if (event.detail.xhr?.askedAt > Number(byId("offline").dataset.since)) byId("offline").hidden = true;
  // what else came in meanwhile does not say that the press was taken after all
  for (const id of ["busy", "not-yours"]) if (byId(id).dataset.of === event.target.id) byId(id).hidden = true;
});
document.addEventListener("submit", (event) => {
  // a press in the instant between a swap and htmx taking the new form over must neither leave the page nor be lost
  const form = event.target;
  if (!form.matches("[hx-post]")) return;
  event.preventDefault();
  // a step shows itself pressed before it is answered
  if (form.matches(".cell-form") && !document.querySelector(".pressed")) form.classList.add("pressed");
  // the press itself goes no further: the listener just added would hear it as well, and send it twice
  if (!form["htmx-internal-data"]) { event.stopImmediatePropagation(); htmx.process(form); htmx.trigger(form, "submit"); }
}, true);
// the row that the address leads to, once it stands
let wanted = location.hash.startsWith("#now-") ? location.hash.slice(1) : "";
function showRow() {
  const summary = wanted && byId(wanted);
  if (!summary) return;
  wanted = "";
  summary.scrollIntoView({ block: "center" });
  summary.focus({ preventScroll: true });
}
// what the next notches would do, and what of the advice holds, is asked for once the step itself stands
function askOn(names = ["notches", "findings"]) {
  names.map(byId).forEach((part) => { if (part && part.hasAttribute("hx-get") && !part.dataset.fresh) htmx.trigger(part, "refresh"); });
}
document.addEventListener("htmx:load", (event) => { if (event.target === document.body) askOn(); });
const UNKNOWN = ".notch-group[open] [data-stale]";
document.addEventListener("htmx:afterSettle", (event) => {
  if (event.target.id === "bench") {
    // a reader for the blind goes on with the answer of the station that was gone to
    if (ofRail(event)) document.querySelector("#main h1").focus({ preventScroll: true });
    showRow();
    // what was laid before its answer is not written yet
    if (!event.detail.aheadOfAnswer) {
      unpress();
      askOn();
    }
    // what was typed and refused stands where it was typed
    const refused = byId(`now-${event.target.dataset.typedAt}`);
    if (refused) {
      refused.parentElement.open = true;
      refused.scrollIntoView({ block: "center" });
    }
    document.querySelectorAll(".exact[open]").forEach(sayNow);
  }
  // a group that was opened while the others were asked for
  if (event.target.id === "notches" && event.target.querySelector(UNKNOWN)) htmx.trigger(event.target, "refresh");
});
// what was asked of a draft that has moved on meanwhile is not shown
document.addEventListener("htmx:beforeSwap", (event) => {
  const { target, xhr } = event.detail;
  if (["notches", "findings"].includes(target.id) && xhr.getResponseHeader("HX-Version") !== byId("bench").dataset.version) event.detail.shouldSwap = false;
});
// from station to station the frame stays; with a key that asks for another window, the browser's own way
const ofRail = (event) => event.detail.requestConfig?.elt.closest(".rail") || event.detail.elt?.closest(".rail");
document.addEventListener("click", (event) => {
  if ((event.ctrlKey || event.metaKey || event.shiftKey) && event.target.closest(".rail a")) event.stopImmediatePropagation();
}, true);
document.addEventListener("htmx:beforeSwap", (event) => {
  const { target, xhr, requestConfig } = event.detail;
  if (target.id !== "bench" || xhr.status === 204 || xhr.status >= 400 && xhr.status !== 409 && xhr.status !== 422) return;
  // what is no bench (warming up, signed out) is gone to as a whole
  if (!xhr.response.includes('id="bench"')) {
    event.detail.shouldSwap = false;
    const led = new URL(xhr.responseURL || requestConfig.path, location.href);
    // what was posted is not asked for: the page itself says what is the matter
    if (requestConfig.verb === "get" || led.pathname !== requestConfig.path.split("?")[0]) location.href = led; else location.reload();
    return;
  }
  if (!ofRail(event)) return;
  document.getElementById("main").replaceChildren();
  window.scrollTo(0, 0);
});
// what stands open in the page, and what parts of it it has
const has = (bench) => ({
  "X-Open": [...bench.querySelectorAll("details[open][id]")].map((e) => e.id).join(" "),
  "X-Have": [...bench.querySelectorAll("[data-mark]")].map((e) => e.dataset.mark).join(" "),
});
// every request says what stands open in the page and what parts of it it has; every change, which draft it was made on and at what place of the lap
document.addEventListener("htmx:configRequest", (event) => {
  const bench = event.target.closest("#bench");
  if (bench && !event.target.closest(".rail") && ["bench", "notches"].includes(event.detail.target.id)) Object.assign(event.detail.headers, has(bench));
  if (!bench || event.detail.verb !== "post") return;
  event.detail.parameters.version = bench.dataset.version;
  if (bench.dataset.at) event.detail.parameters.at = bench.dataset.at;
});
// the form for an exact value is made when it is opened
function exactForm(exact) {
  const form = byId("exact-form").content.firstElementChild.cloneNode(true);
  const { typed, tunable } = form.elements;
  tunable.value = exact.querySelector("[data-tunable-value]").dataset.tunableValue;
  typed.id = `typed-${tunable.value}`;
  typed.setAttribute("aria-label", exact.dataset.label);
  exact.append(form);
  sayNow(exact);
  htmx.process(form);
}
// the value as it is now, where nothing else was typed
function sayNow(exact) {
  const [value, typed] = [exact.querySelector("[data-tunable-value]"), exact.querySelector("[name=typed]")];
  const { typedAt, typed: refused } = byId("bench").dataset;
  // why it was refused stands at the field too; the alert above was read out
  if (typed) typed.form.dataset.refusal = typedAt === value.dataset.tunableValue ? document.querySelector("p.refusal").textContent : "";
  if (typedAt === value.dataset.tunableValue) { if (typed && refused) typed.value = refused; return; }
  if (!typed || typed.value !== typed.defaultValue) return;
  typed.defaultValue = typed.value = value.dataset.si ? value.textContent : "";
}
document.addEventListener("toggle", (event) => {
  const at = event.target;
  if (at.matches(".exact")) {
    const form = at.querySelector("form");
    if (at.open && !form) exactForm(at);
    if (!at.open && form && !form.contains(document.activeElement)) form.remove();
  }
  // what is closed is made when it opens: first what it holds, then what its notches would do
  if (at.open && at.matches("[data-later]")) htmx.trigger(byId("later"), "opened");
  else if (at.matches(".notch-group") && at.closest("[data-fresh]") && document.querySelector(UNKNOWN)) htmx.trigger(byId("notches"), "refresh");
}, true);
document.addEventListener("htmx:afterSwap", (event) => {
  // what was typed and taken is put away
  const { requestConfig, xhr } = event.detail;
  const exact = event.target.id === "bench" && xhr?.status < 300 && requestConfig.elt.closest(".exact");
  if (!exact) return;
  exact.open = false;
  requestConfig.elt.remove();
  exact.querySelector("summary").focus();
});
// painting on a ribbon: a tap sets one end, a drag along it sets both; the words and the stretch come from the server
let painting = null;
const shareOf = (surface, event) => {
  const box = surface.getBoundingClientRect();
  return Math.min(1, Math.max(0, (event.clientX - box.left) / box.width));
};
function band(surface, a, b) {
  const strip = surface.querySelector(".paint-band");
  strip.hidden = false;
  strip.style.left = `${100 * Math.min(a, b)}%`;
  strip.style.width = `${100 * Math.abs(b - a)}%`;
}
document.addEventListener("pointerdown", (event) => {
  const surface = event.target.closest("[data-paint]");
  if (surface) painting = { surface, from: shareOf(surface, event), x: event.clientX, moved: false };
});
document.addEventListener("pointermove", (event) => {
  if (!painting) return;
  painting.moved ||= Math.abs(event.clientX - painting.x) > 10;
  if (painting.moved) band(painting.surface, painting.from, shareOf(painting.surface, event));
});
document.addEventListener("pointercancel", () => { painting = null; });
document.addEventListener("pointerup", (event) => {
  if (!painting) return;
  const { surface, from, moved } = painting;
  painting = null;
  const values = moved ? { tap: from, tap_to: shareOf(surface, event) } : { tap: from };
  htmx.ajax("GET", surface.getAttribute("hx-get"), { source: surface, target: "#paint", swap: "outerHTML", values });
});
const unpress = () => document.querySelectorAll(".pressed").forEach((form) => form.classList.remove("pressed"));
function tell(note, of = "") {
  Object.assign(note.dataset, { of, since: performance.now() });
  note.hidden = false;
  unpress();
}
document.addEventListener("htmx:beforeSend", (event) => { event.detail.xhr.askedAt = performance.now(); });
document.addEventListener("htmx:sendError", () => tell(byId("offline")));
const noteOf = (status) => byId({ 403: "not-yours", 503: "busy" }[status] ?? "offline");
document.addEventListener("htmx:responseError", (event) => {
  const { target, xhr } = event.detail;
  tell(noteOf(xhr.status), target.id);
});
