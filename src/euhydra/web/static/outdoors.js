// Keeps the pages of the steps and of the log and what they are made of, for a garden without a network.
// The network goes first.
const worker = /** @type {ServiceWorkerGlobalScope} */ (/** @type {unknown} */ (self));
const KEPT = "euhydra outdoors 2";
const steps = (url) =>
  /^\/g\/[a-z0-9-]+\/build$/.test(url.pathname) && url.searchParams.get("view") === "steps";
const log = (url) => /^\/g\/[a-z0-9-]+\/keep$/.test(url.pathname);
const page = (url) => steps(url) || log(url);
// The log's page stands for all of Keep's: it has every form in it.
const logOf = (url) => `${url.pathname}?view=log`;
const whole = (url) => ["", "?view=log"].includes(url.search);

worker.addEventListener("install", () => worker.skipWaiting());
worker.addEventListener("activate", (event) =>
  event.waitUntil(
    (async () => {
      for (const name of await caches.keys()) if (name !== KEPT) await caches.delete(name);
      await worker.clients.claim();
      // What the page that is open was made of came before this worker stood between.
      const cache = await caches.open(KEPT);
      for (const client of await worker.clients.matchAll({ type: "window" })) {
        const url = new URL(client.url);
        const kept = log(url) ? logOf(url) : client.url.split("#")[0];
        if (page(url)) await cache.add(new Request(kept, { credentials: "same-origin" }));
      }
      const made = await (await fetch("/outdoors.json")).json();
      await cache.addAll(made);
    })(),
  ),
);

worker.addEventListener("fetch", (event) => {
  const url = new URL(event.request.url);
  if (event.request.method !== "GET" || url.origin !== worker.location.origin) return;
  if (!(url.pathname.startsWith("/static/") || (event.request.mode === "navigate" && page(url)))) return;
  event.respondWith(
    (async () => {
      const cache = await caches.open(KEPT);
      try {
        const answer = await fetch(event.request);
        if (answer.ok && !log(url)) await cache.put(event.request, answer.clone());
        if (answer.ok && log(url) && whole(url)) await cache.put(logOf(url), answer.clone());
        return answer;
      } catch (error) {
        const old = await cache.match(log(url) ? logOf(url) : event.request, { ignoreVary: true });
        if (old) return old;
        throw error;
      }
    })(),
  );
});
