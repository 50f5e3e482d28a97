// A helper at the line: taps are kept here at once, with what the van's clock said, and sent when the van answers. What
// a tap is worth on the van's clock is worked out by the van.
const TRIPS = 5;
const UNDO_MS = 5000;
const name = () => crypto.randomUUID ? crypto.randomUUID() : ([1e7] + -1e3 + -4e3 + -8e3 + -1e11)
  .replace(/[018]/g, (c) => (c ^ (crypto.getRandomValues(new Uint8Array(1))[0] & (15 >> (c / 4)))).toString(16));

function stand(box) {
  const key = `line:${box.dataset.key}:${box.dataset.at}`;
  const part = (selector) => box.querySelector(selector);
  const read = () => { try { return JSON.parse(localStorage.getItem(key)) || {}; } catch { return {}; } };
  const state = { queue: [], trips: [], ...read() };
  const words = part("[data-line]");
  const keep = () => { try { localStorage.setItem(key, JSON.stringify(state)); } catch { words.textContent = words.dataset.full; } };
  let undo = null;

  function show() {
    part("[data-do=tap]").disabled = !state.trips.length;
    part("[data-do=undo]").hidden = !undo;
    if (!state.trips.length) words.textContent = words.dataset.reading;
    else words.textContent = state.queue.length ? `${state.queue.length} ${words.dataset.waiting}` : words.dataset.ready;
  }
  async function setClock() {
    const trips = [];
    try {
      for (let k = 0; k < TRIPS; k += 1) {
        const sent = Date.now() / 1000;
        const answer = await fetch(box.dataset.clock, { cache: "no-store" });
        if (!answer.ok) return;
        const { now } = await answer.json();
        trips.push([sent, now, Date.now() / 1000]);
      }
    } catch { return; }
    state.trips = trips;
    keep(); show();
  }
  let sending = false;
  async function send() {
    if (sending) return;
    sending = true;
    try {
      // the newest tap may still be undone
      while (state.queue.length && state.queue[0].id !== (undo && undo.id)) {
        const tap = state.queue[0];
        const token = JSON.parse(document.body.getAttribute("hx-headers"))["X-CSRFToken"];
        const answer = await fetch(box.dataset.send, {
          method: "POST", headers: { "Content-Type": "application/json", "X-CSRFToken": token }, body: JSON.stringify(tap),
        });
        if (!answer.ok && answer.status !== 422) break;
        state.queue = state.queue.filter((each) => each.id !== tap.id);
        keep(); show();
        if (answer.status === 422) words.textContent = (await answer.json()).refused;
      }
    } catch { /* the van does not answer: what is kept here is sent later */ } finally { sending = false; }
  }
  box.addEventListener("click", (event) => {
    const button = event.target.closest("button");
    if (!button) return;
    if (button.dataset.do === "tap") {
      const tap = { id: name(), at: box.dataset.at, wall_s: Date.now() / 1000, trips: state.trips };
      state.queue.push(tap);
      undo = tap;
      setTimeout(() => { if (undo === tap) undo = null; show(); send(); }, UNDO_MS);
    } else {
      state.queue = state.queue.filter((each) => each.id !== undo.id);
      undo = null;
    }
    keep(); show();
  });
  window.addEventListener("online", () => { setClock(); send(); });
  setInterval(send, 10000);
  setInterval(setClock, 600000);
  if (navigator.wakeLock) navigator.wakeLock.request("screen").catch(() => {});
  show();
  setClock();
  send();
}
function begin() {
  const box = document.getElementById("line");
  if (box && !box.dataset.begun) { box.dataset.begun = "yes"; stand(box); }
}
begin();
document.addEventListener("htmx:afterSwap", begin);
