// Keeps the pages of the steps, of the log, of this morning and of the neighbour, and what they are made of,
// for a garden without a network. The network goes first.
const worker = /** @type {ServiceWorkerGlobalScope} */ (/** @type {unknown} */ (self));
const KEPT = "euhydra outdoors 3";
const at = (path) => (url) => new RegExp(`^/g/[a-z0-9-]+/${path}$`).test(url.pathname);
const [log, build, garden, numbers, neighbour] = ["keep", "build", "garden", "garden/year", "neighbour"].map(
  at,
);
const steps = (url) => build(url) && url.searchParams.get("view") === "steps";
const page = (url) => steps(url) || log(url) || garden(url) || neighbour(url);
// The log's page stands for all of Keep's: it has every form in it. This morning stands for every day.
const nameOf = (url) =>
  log(url) ? `${url.pathname}?view=log` : garden(url) ? url.pathname : url.pathname + url.search;
// Whether what was answered is what is kept under that name.
const whole = (url) => (log(url) ? ["", "?view=log"].includes(url.search) : garden(url) ? !url.search : true);

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
        if (page(url)) await cache.add(new Request(nameOf(url), { credentials: "same-origin" }));
      }
      const made = await (await fetch("/outdoors.json")).json();
      await cache.addAll(made);
    })(),
  ),
);

worker.addEventListener("fetch", (event) => {
  const url = new URL(event.request.url);
  if (event.request.method !== "GET" || url.origin !== worker.location.origin) return;
  const visited = event.request.mode === "navigate" && page(url);
  if (!(url.pathname.startsWith("/static/") || visited || numbers(url))) return;
  event.respondWith(
    (async () => {
      const cache = await caches.open(KEPT);
      try {
        const answer = await fetch(event.request);
        if (answer.ok && whole(url)) await keep(cache, url, answer.clone());
        return answer;
      } catch (error) {
        const old = await cache.match(nameOf(url), { ignoreVary: true });
        if (old) return old;
        throw error;
      }
    })(),
  );
});

// A garden's years in numbers are named by its change: those of an earlier one are of no use any more.
async function keep(cache, url, answer) {
  if (numbers(url))
    for (const request of await cache.keys()) {
      const other = new URL(request.url);
      if (other.pathname === url.pathname && other.searchParams.get("on") !== url.searchParams.get("on"))
        await cache.delete(request);
    }
  await cache.put(nameOf(url), answer);
}
