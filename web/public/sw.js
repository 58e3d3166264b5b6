// Keeps what was last seen at hand where there is no signal: the application itself, and the answers to what it asked.
// The network always comes first; nothing that is written goes through here.
const KEPT = "lumbek-1";
const ASKED = [
  /^\/api\/session$/,
  /^\/api\/about$/,
  /^\/api\/jobs\/[^/]+$/,
  /^\/api\/jobs\/[^/]+\/(tests|attachments)$/,
  /^\/api\/circuits\/[^/]+(\/tests)?$/,
];

self.addEventListener("install", (event) => {
  event.waitUntil(self.skipWaiting());
});
self.addEventListener("activate", (event) => {
  event.waitUntil(self.clients.claim());
});
self.addEventListener("message", (event) => {
  if (event.data === "forget") event.waitUntil(caches.delete(KEPT));
});
self.addEventListener("fetch", (event) => {
  const request = event.request;
  const url = new URL(request.url);
  if (request.method !== "GET" || url.origin !== location.origin) return;
  if (url.pathname.startsWith("/assets/")) event.respondWith(keptFirst(request));
  else if (request.mode === "navigate") event.respondWith(networkFirst(request, "/"));
  else if (ASKED.some((each) => each.test(url.pathname))) event.respondWith(networkFirst(request, request));
});

async function keptFirst(request) {
  const kept = await caches.open(KEPT);
  const found = await kept.match(request);
  if (found) return found;
  const answer = await fetch(request);
  if (answer.ok) await kept.put(request, answer.clone());
  return answer;
}

async function networkFirst(request, key) {
  const kept = await caches.open(KEPT);
  try {
    const answer = await fetch(request);
    if (answer.ok) await kept.put(key, answer.clone());
    return answer;
  } catch (error) {
    const found = await kept.match(key);
    if (found) return found;
    throw error;
  }
}
