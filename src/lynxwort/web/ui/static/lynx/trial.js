// A trial on the phone: taps are kept here at once and sent when the van answers. Times are worked out by the van; what
// is shown here is only what the two taps lie apart.
const now = () => ({ steady_s: performance.now() / 1000, wall_s: Date.now() / 1000, page: PAGE });
const PAGE = crypto.randomUUID ? crypto.randomUUID() : String(Math.random()).slice(2);
const name = () => crypto.randomUUID ? crypto.randomUUID() : ([1e7] + -1e3 + -4e3 + -8e3 + -1e11)
  .replace(/[018]/g, (c) => (c ^ (crypto.getRandomValues(new Uint8Array(1))[0] & (15 >> (c / 4)))).toString(16));

function ride(box) {
  const known = JSON.parse(box.dataset.known);
  const key = `trial:${known.trial}`;
  const part = (selector) => box.querySelector(selector);
  const read = () => { try { return JSON.parse(localStorage.getItem(key)) || {}; } catch { return {}; } };
  const blank = { step: "ready", queue: [], done: [], ridden: 0 };
  let state = { ...blank, ...read() };
  // what the van knows, and what only this phone does
  state.ridden = Math.max(state.ridden, known.ridden + state.queue.length);
  state.done = [...new Set([...state.done, ...known.done])];

  function keep() {
    try { localStorage.setItem(key, JSON.stringify(state)); } catch { line(part("[data-line]").dataset.full); return false; }
    return true;
  }
  const place = () => { for (let k = 0; k < known.runs; k += 1) if (!state.done.includes(k)) return k; return null; };
  const line = (words) => { part("[data-line]").textContent = words; };
  function tellLine() {
    const words = part("[data-line]").dataset;
    line(state.queue.length ? `${state.queue.length} ${words.waiting}` : words.kept);
  }
  const clock = (seconds) => {
    const tenths = Math.round(seconds * 10);
    const minutes = Math.floor(tenths / 600);
    return `${minutes}:${((tenths - minutes * 600) / 10).toFixed(1).padStart(4, "0")}`;
  };
  function show() {
    const at = place();
    const step = at === null && state.step !== "time" ? "over" : state.step;
    box.querySelectorAll("[data-step]").forEach((each) => { each.hidden = each.dataset.step !== step; });
    const on = state.step === "ready" ? at : state.place ?? at;
    part("[data-n]").textContent = on === null ? "" : on + 1;
    const letter = known.order && on !== null ? known.order[on] : "";
    part("[data-letter]").textContent = letter;
    if (letter) part("[data-fitted]").textContent = letter === "A" ? box.dataset.a : box.dataset.b;
    box.querySelectorAll(".tile").forEach((tile, k) => {
      tile.classList.toggle("ridden", state.done.includes(k));
      tile.toggleAttribute("aria-current", k === on);
    });
    box.querySelectorAll("[data-score]").forEach((dot) => {
      const chosen = (state.scores || {})[dot.closest("[data-aspect]").dataset.aspect];
      dot.setAttribute("aria-pressed", String(Number(dot.dataset.score) === chosen));
    });
    box.querySelectorAll("[data-guessed]").forEach((dot) => dot.setAttribute("aria-pressed", String(dot.dataset.guessed === state.guess)));
    if (state.step === "time") part("[data-time]").textContent = clock(state.last);
    tellLine();
  }
  const go = (step, more = {}) => { state = { ...state, ...more, step }; keep(); show(); };

  const acts = {
    start: () => go("riding", { start: now(), place: place(), scores: {}, guess: null }),
    end: () => go("how", { end: now() }),
    undo: () => go(state.step === "how" ? "riding" : "ready"),
    clean: () => go("score", { botched: false }),
    botched: () => { acts.finish(true); },
    scored: () => { acts.finish(false); },
    finish: (botched) => {
      const run = {
        id: name(), place: state.place, ridden: state.ridden, start: state.start, end: state.end, botched,
        scores: botched ? {} : state.scores, guess: botched ? null : state.guess,
      };
      const done = botched ? state.done : [...state.done, state.place];
      const last = state.start.page === state.end.page ? state.end.steady_s - state.start.steady_s : state.end.wall_s - state.start.wall_s;
      go("time", { queue: [...state.queue, run], done, ridden: state.ridden + 1, last });
      send();
    },
    next: () => go("ready", { place: null }),
  };

  let sending = false;
  async function send() {
    if (sending) return;
    sending = true;
    try {
      while (state.queue.length) {
        const run = state.queue[0];
        const token = JSON.parse(document.body.getAttribute("hx-headers"))["X-CSRFToken"];
        const answer = await fetch(box.dataset.send, {
          method: "POST", headers: { "Content-Type": "application/json", "X-CSRFToken": token }, body: JSON.stringify(run),
        });
        if (answer.status === 422) {
          const said = await answer.json();
          // it would be refused for ever: it is put by, and the run is ridden again
          state.done = state.done.filter((k) => k !== run.place);
          state.refused = [...(state.refused || []), run];
          state.queue = state.queue.filter((each) => each.id !== run.id);
          keep(); show(); line(said.refused);
          continue;
        }
        if (!answer.ok) break;
        state.queue = state.queue.filter((each) => each.id !== run.id);
        keep(); tellLine();
      }
    } catch { /* the van does not answer: what is kept here is sent later */ } finally { sending = false; }
  }

  box.addEventListener("click", (event) => {
    const button = event.target.closest("button");
    if (!button) return;
    if (button.dataset.do) acts[button.dataset.do]();
    if (button.dataset.score) {
      const aspect = button.closest("[data-aspect]").dataset.aspect;
      const score = Number(button.dataset.score);
      const scores = { ...state.scores };
      if (scores[aspect] === score) delete scores[aspect]; else scores[aspect] = score;
      go("score", { scores });
    }
    if (button.dataset.guessed) go("score", { guess: button.dataset.guessed });
  });
  window.addEventListener("online", send);
  setInterval(send, 15000);
  const awake = part("[data-awake]");
  awake.textContent = awake.dataset.sleeps;
  const stay = () => navigator.wakeLock && navigator.wakeLock.request("screen").then(() => { awake.textContent = awake.dataset.awake; }, () => {});
  stay();
  document.addEventListener("visibilitychange", () => { if (document.visibilityState === "visible") stay(); });
  keep();
  show();
  send();
}
function begin() {
  const box = document.getElementById("trial");
  if (box && !box.dataset.begun) { box.dataset.begun = "yes"; ride(box); }
}
begin();
document.addEventListener("htmx:afterSwap", begin);
