// Keeps the sheets that were asked for, and gives them when the van does not answer. Nothing else is kept.
const SHEETS = "sheets";

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));
self.addEventListener("message", (event) => {
  if (event.data.keep) event.waitUntil(keep(event.data.keep, event.source));
});

async function keep(addresses, asker) {
  const cache = await caches.open(SHEETS);
  let kept = 0;
  for (const address of addresses) {
    const answer = await fetch(address, { credentials: "same-origin" }).catch(() => null);
    // a page that leads to the sign-in is no sheet
    if (!answer || !answer.ok || answer.redirected) continue;
    await cache.put(address, answer);
    kept += 1;
  }
  asker.postMessage({ kept, of: addresses.length });
}

self.addEventListener("fetch", (event) => {
  if (event.request.method === "GET") event.respondWith(newest(event.request));
});

async function newest(request) {
  const cache = await caches.open(SHEETS);
  const stands = await cache.match(request, { ignoreVary: true });
  try {
    const answer = await fetch(request);
    // what is kept is kept anew each time it is seen
    if (stands && answer.ok && !answer.redirected) await cache.put(request, answer.clone());
    return answer;
  } catch (trouble) {
    if (stands) return stands;
    throw trouble;
  }
}
