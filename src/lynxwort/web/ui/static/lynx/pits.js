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

// who came by when, in this phone only
const book = document.querySelector("[data-came-book]");
const key = book && `came:${book.dataset.cameBook}`;
const came = () => { try { return JSON.parse(localStorage.getItem(key)) || {}; } catch { return {}; } };

function tellCame() {
  const times = came();
  book.querySelectorAll("[data-came]").forEach((button) => {
    const at = times[button.dataset.came];
    button.classList.toggle("came", !!at);
    button.querySelector("b").textContent = at ? clock(new Date(at)) : button.dataset.words;
    button.setAttribute("aria-pressed", String(!!at));
  });
}
if (book) {
  book.addEventListener("click", (event) => {
    const button = event.target.closest("[data-came]");
    if (!button) return;
    const times = came();
    if (times[button.dataset.came]) delete times[button.dataset.came];
    else times[button.dataset.came] = new Date().toISOString();
    try { localStorage.setItem(key, JSON.stringify(times)); } catch { return; }
    tellCame();
  });
}
// what the page came with, and again after what was laid over it
function tell() {
  tellSecure();
  tellKept();
  if (book) tellCame();
}
tell();
document.addEventListener("htmx:afterSwap", tell);
