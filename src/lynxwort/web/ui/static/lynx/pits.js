// In the pits: sheets kept in the phone, and who came by when. No calculation of the job.
const said = (id, text) => { const line = document.getElementById(id); if (line) line.textContent = text; };
const secure = window.isSecureContext && "serviceWorker" in navigator;

function tellSecure() {
  document.querySelectorAll("[data-secure]").forEach((part) => { part.hidden = (part.dataset.secure === "yes") !== secure; });
}

document.addEventListener("click", async (event) => {
  const button = event.target.closest("[data-keep-sheets]");
  if (!button) return;
  said("kept-sheets", button.dataset.working);
  const refused = () => said("kept-sheets", button.dataset.refused);
  try {
    await navigator.serviceWorker.register(button.dataset.keepSheets);
    const worker = (await navigator.serviceWorker.ready).active;
    navigator.serviceWorker.onmessage = ({ data }) => {
      if (data.kept < data.of) { refused(); return; }
      localStorage.setItem("sheets-kept", new Date().toISOString());
      tellKept();
    };
    // what a sheet is shown with is kept beside it
    const looks = [...document.querySelectorAll("link[rel=stylesheet], link[as=font], link[rel=icon], link[rel=manifest], script[src]")];
    const sheets = [...document.querySelectorAll("[data-sheet]")].map((link) => link.href);
    worker.postMessage({ keep: [location.href, ...sheets, ...looks.map((part) => part.href || part.src)] });
  } catch {
    refused();
  }
});
document.addEventListener("click", async (event) => {
  if (!event.target.closest("[data-forget-sheets]")) return;
  await caches.delete("sheets");
  for (const each of await navigator.serviceWorker.getRegistrations()) await each.unregister();
  localStorage.removeItem("sheets-kept");
  tellKept();
});

function tellKept() {
  const line = document.getElementById("kept-sheets");
  if (!line || !secure) return;
  const when = localStorage.getItem("sheets-kept");
  line.textContent = when ? `${line.dataset.kept} ${clock(new Date(when))}` : line.dataset.none;
  document.querySelector("[data-forget-sheets]").hidden = !when;
}

const clock = (date) => date.toLocaleTimeString([], { hour: "2-digit", minute: "2-digit", hourCycle: "h23" });

// who came by when: kept in this phone at once, and sent to the van when it answers
const book = () => document.querySelector("[data-came-book]");
const stored = (name) => { try { return JSON.parse(localStorage.getItem(`${name}:${book().dataset.cameBook}`)); } catch { return null; } };
const store = (name, value) => { try { localStorage.setItem(`${name}:${book().dataset.cameBook}`, JSON.stringify(value)); return true; } catch { return false; } };
const came = () => stored("came") || {};
const queue = () => stored("came-queue") || [];
const newName = () => crypto.randomUUID ? crypto.randomUUID() : ([1e7] + -1e3 + -4e3 + -8e3 + -1e11)
  .replace(/[018]/g, (c) => (c ^ (crypto.getRandomValues(new Uint8Array(1))[0] & (15 >> (c / 4)))).toString(16));

function tellCame(words) {
  const times = came();
  const waiting = queue();
  book().querySelectorAll("[data-came]").forEach((button) => {
    const own = waiting.filter((each) => each.key === button.dataset.came).pop();
    const at = own ? times[button.dataset.came] : button.dataset.at || times[button.dataset.came];
    button.classList.toggle("came", !!at);
    // what the van knows stands there by the race's clock, not by the phone's
    button.querySelector("b").textContent = !at ? button.dataset.words : at === button.dataset.at ? button.dataset.hour : clock(new Date(at));
    button.setAttribute("aria-pressed", String(!!at));
  });
  const line = document.getElementById("came-line");
  if (line && (words || waiting.length || !line.dataset.told)) line.textContent = words || (waiting.length ? `${waiting.length} ${line.dataset.waiting}` : "");
  if (line) line.dataset.told = words || "";
}
let sending = false;
async function sendCame() {
  if (sending || !book() || !queue().length || !book().dataset.cameSend) return;
  sending = true;
  let words = "";
  try {
    while (queue().length) {
      const first = queue()[0];
      const token = JSON.parse(document.body.getAttribute("hx-headers"))["X-CSRFToken"];
      const answer = await fetch(book().dataset.cameSend, {
        method: "POST", headers: { "Content-Type": "application/json", "X-CSRFToken": token },
        body: JSON.stringify({ ...first, now_ms: Date.now() }),
      });
      if (!answer.ok && answer.status !== 422) break;
      const said = await answer.json();
      if (said.refused || said.alone) {
        words = said.refused || said.alone;
        store("came-own", [...(stored("came-own") || []), first.key]);
      }
      store("came-queue", queue().filter((each) => each.id !== first.id));
    }
  } catch { /* the van does not answer: they wait */ } finally { sending = false; }
  tellCame(words);
  if (!queue().length && !words) htmx.trigger(document.body, "came");
}
document.addEventListener("click", (event) => {
  const button = event.target.closest("[data-came]");
  if (!button) return;
  const [key, at, times] = [button.dataset.came, Date.now(), came()];
  const gone = button.getAttribute("aria-pressed") === "true";
  if (gone) delete times[key];
  else times[key] = new Date(at).toISOString();
  if (!store("came", times)) return;
  if (book().dataset.cameSend) store("came-queue", [...queue(), { id: newName(), key, gone, at_ms: at }]);
  tellCame();
  sendCame();
});
window.addEventListener("online", sendCame);
setInterval(sendCame, 15000);
// what the page came with, and again after what was laid over it
function tell() {
  tellSecure();
  tellKept();
  if (book()) tellCame();
}
tell();
sendCame();
document.addEventListener("htmx:afterSwap", (event) => {
  // what the van says now goes before what this phone remembers of it, but for what waits or is this phone's alone
  if (event.target.id === "clock-rows") {
    const mine = new Set([...queue().map((each) => each.key), ...(stored("came-own") || [])]);
    store("came", Object.fromEntries(Object.entries(came()).filter(([key]) => mine.has(key))));
  }
  tell();
});
