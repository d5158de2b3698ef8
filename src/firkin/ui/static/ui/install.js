// Browsers let a page be installed, and open without a connection, only over HTTPS or on this machine itself.
(() => {
  "use strict";
  if (!("serviceWorker" in navigator) || !window.isSecureContext || !document.body.matches(".signed-in")) return;
  const own = (address) => address && new URL(address, location).origin === location.origin;
  const files = () =>
    [...document.querySelectorAll("link[rel=stylesheet], link[rel=preload], link[rel=icon], script[src]")]
      .map((one) => one.href || one.src)
      .filter(own);
  navigator.serviceWorker
    .register("/worker.js")
    .then(() => navigator.serviceWorker.ready)
    .then((ready) => ready.active.postMessage({ page: location.href, files: files() }))
    .catch(() => {}); // it may be forbidden in this browser; then the open page's outbox does the work
})();
