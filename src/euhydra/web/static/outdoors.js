// Keeps the steps' page and what it is made of, for a garden without a network. The network goes first.
const KEPT = "euhydra outdoors 1";
const page = (url) => /^\/g\/[a-z0-9-]+\/build$/.test(url.pathname) && url.searchParams.get("view") === "steps";

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil((async () => {
  for (const name of await caches.keys()) if (name !== KEPT) await caches.delete(name);
  await self.clients.claim();
  // What the page that is open was made of came before this worker stood between.
  const cache = await caches.open(KEPT);
  for (const client of await self.clients.matchAll({ type: "window" })) {
    if (page(new URL(client.url))) await cache.add(new Request(client.url.split("#")[0], { credentials: "same-origin" }));
  }
  const made = await (await fetch("/outdoors.json")).json();
  await cache.addAll(made);
})()));

self.addEventListener("fetch", (event) => {
  const url = new URL(event.request.url);
  if (event.request.method !== "GET" || url.origin !== self.location.origin) return;
  if (!(url.pathname.startsWith("/static/") || (event.request.mode === "navigate" && page(url)))) return;
  event.respondWith((async () => {
    const cache = await caches.open(KEPT);
    try {
      const answer = await fetch(event.request);
      if (answer.ok) await cache.put(event.request, answer.clone());
      return answer;
    } catch (error) {
      const old = await cache.match(event.request, { ignoreVary: true });
      if (old) return old;
      throw error;
    }
  })());
});
