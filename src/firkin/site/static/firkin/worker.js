// Where Firkin is served by HTTPS (or on this machine itself) the batch at hand opens without a connection too: its last
// pages are kept in the browser, one batch at a time, and shown with a word that they may be old. Presses are not this
// file's: the outbox of the open page keeps them. Signing out, or being sent to sign in, lets go of what was kept.
"use strict";
const BATCH = "firkin-batch";
const FILES = "firkin-files";
const AT_THE_BENCH = /^\/batches\/(\d+)\/(?:prepare|make|wait|fill|check)\/$/;
const LEAVES = /^\/accounts\/sign-(?:out|in)\/$/;

const batchOf = (address) => (AT_THE_BENCH.exec(new URL(address).pathname) || [])[1];

// "Mon 30 Nov, 14:05": with its day, since a page may be opened again a week later.
const clock = () => {
  const now = new Date();
  const [weekday, month, day] = now.toDateString().split(" ");
  return `${weekday} ${Number(day)} ${month}, ${now.toTimeString().slice(0, 5)}`;
};

// Keeps a page of the batch at hand with the hour it is of, and lets go of any other batch's.
const keep = async (address, answer) => {
  const cache = await caches.open(BATCH);
  const others = (await cache.keys()).filter((kept) => batchOf(kept.url) !== batchOf(address));
  await Promise.all(others.map((kept) => cache.delete(kept)));
  const headers = { "Content-Type": "text/html; charset=utf-8", "Firkin-As-Of": clock() };
  await cache.put(new URL(address).pathname, new Response(await answer.text(), { headers }));
};

const isOwnPage = (answer) => answer.ok && !answer.redirected && answer.type === "basic";

const said = (words) => `<p class="said said-not" role="alert">${words}</p>`;

// A page that was kept, with the hour it is of said at its head.
const asItWas = async (kept) => {
  const words = `No connection. This page is as it was on ${kept.headers.get("Firkin-As-Of")}; others may have changed it since. What you press waits here and is sent later.`;
  const html = (await kept.text()).replace(/(<main [^>]*>)/, `$1${said(words)}`);
  return new Response(html, { headers: { "Content-Type": "text/html; charset=utf-8" } });
};

// Nothing kept of that page: said, with a way to the batch that is.
const nothingKept = async () => {
  const there = await (await caches.open(BATCH)).keys();
  const way = there.map((one) => new URL(one.url).pathname).find((path) => path.endsWith("/make/")) || (there[0] && new URL(there[0].url).pathname);
  const link = way ? `<p><a href="${way}">Go to the batch at hand</a></p>` : "";
  const html = `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>No connection</title><main><h1>No connection to Firkin</h1><p>This page is not kept on this device. Try again when you are back in reach.</p>${link}</main></html>`;
  return new Response(html, { status: 503, headers: { "Content-Type": "text/html; charset=utf-8" } });
};

const page = async (request) => {
  try {
    const answer = await fetch(request);
    if (batchOf(request.url) && isOwnPage(answer)) await keep(request.url, answer.clone());
    return answer;
  } catch {
    const kept = await (await caches.open(BATCH)).match(new URL(request.url).pathname);
    return kept ? asItWas(kept) : nothingKept();
  }
};

const file = async (request) => {
  const cache = await caches.open(FILES);
  try {
    const answer = await fetch(request);
    if (answer.ok) await cache.put(request, answer.clone());
    return answer;
  } catch (gone) {
    const kept = await cache.match(request);
    if (kept) return kept;
    throw gone;
  }
};

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));

self.addEventListener("fetch", (event) => {
  const { request } = event;
  const { origin, pathname } = new URL(request.url);
  if (LEAVES.test(pathname)) event.waitUntil(caches.delete(BATCH));
  if (request.method !== "GET" || origin !== self.location.origin) return;
  if (request.mode === "navigate") event.respondWith(page(request));
  else if (pathname.startsWith("/static/")) event.respondWith(file(request));
});

// The page that was open before this worker ran is kept as well, and so are the files it is made of.
self.addEventListener("message", (event) => {
  const { page: address, files } = event.data;
  const fetched = async () => {
    if (batchOf(address)) {
      const answer = await fetch(address, { credentials: "same-origin" });
      if (isOwnPage(answer)) await keep(address, answer);
    }
    await (await caches.open(FILES)).addAll(files);
  };
  event.waitUntil(fetched().catch(() => {}));
});
