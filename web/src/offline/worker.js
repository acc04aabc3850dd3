// The page's helper on the device: it keeps the application and the day, so that both open with the network gone.
// The build puts the list of files in the place of the two names below.
/* global self, caches, fetch, Headers, Request, Response, URL */
const FILES = __FILES__;
const SHELL = `cavesson-shell-${__VERSION__}`;
const DAY = "cavesson-day";

// What a ride needs, and the week. Everything else is asked of the server alone.
const OF_THE_DAY = [
  /^\/api\/me$/,
  /^\/api\/today$/,
  /^\/api\/curriculum$/,
  /^\/api\/people$/,
  /^\/api\/weather$/,
  /^\/api\/weeks\/[^/]+$/,
  /^\/api\/rides\/[^/]+(\/(plan|tack|cattle|exercises))?$/,
  /^\/api\/horses\/[^/]+\/(standing|gear|pattern-today)$/,
  /^\/api\/set-ups$/,
  /^\/api\/figures$/,
];

self.addEventListener("install", (event) => {
  event.waitUntil(
    caches
      .open(SHELL)
      .then((cache) => cache.addAll(FILES))
      .then(() => self.skipWaiting()),
  );
});

self.addEventListener("activate", (event) => {
  event.waitUntil(
    caches
      .keys()
      .then((names) =>
        Promise.all(names.filter((n) => n !== SHELL && n !== DAY).map((n) => caches.delete(n))),
      )
      .then(() => self.clients.claim()),
  );
});

// Another person signs in, or this one out: what was kept of the day is theirs alone.
self.addEventListener("message", (event) => {
  if (event.data === "forget") event.waitUntil(caches.delete(DAY));
});

self.addEventListener("fetch", (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== "GET" || url.origin !== self.location.origin) return;
  if (url.pathname.startsWith("/api/")) {
    if (OF_THE_DAY.some((path) => path.test(url.pathname))) event.respondWith(freshElseKept(event));
  } else if (request.mode === "navigate") {
    event.respondWith(keptElseFresh(new Request("/index.html")));
  } else {
    event.respondWith(keptElseFresh(request));
  }
});

async function keptElseFresh(request) {
  return (await caches.match(request, { ignoreVary: true })) ?? fetch(request);
}

async function freshElseKept(event) {
  const { request } = event;
  try {
    const answer = await fetch(request);
    if (answer.ok) {
      const copy = answer.clone();
      event.waitUntil(
        caches
          .open(DAY)
          .then((cache) => cache.put(request, copy))
          // A full device keeps no day, and the ride goes on with the network.
          .catch(() => undefined),
      );
    }
    return answer;
  } catch (error) {
    const kept = await caches.match(request, { ignoreVary: true });
    if (kept) {
      // The date on it is of then: the page must not set its clock by it.
      const headers = new Headers(kept.headers);
      headers.set("x-kept", "1");
      return new Response(kept.body, { status: kept.status, headers });
    }
    throw error;
  }
}
