// At the bench: timers count down, and the screen stays awake where the browser can. The server keeps the time.
(() => {
  "use strict";
  const two = (n) => String(n).padStart(2, "0");

  const tick = () => {
    document.querySelectorAll("[data-timer-end]").forEach((place) => {
      const left = Math.round((new Date(place.dataset.timerEnd) - Date.now()) / 1000);
      if (left <= 0) {
        if (!place.dataset.done) {
          place.dataset.done = "1";
          place.textContent = "Time is up";
          if (navigator.vibrate) navigator.vibrate([300, 150, 300]);
        }
        return;
      }
      const hours = Math.floor(left / 3600);
      const rest = `${two(Math.floor(left / 60) % 60)}:${two(left % 60)}`;
      place.textContent = hours ? `${hours}:${rest}` : rest;
    });
  };

  const stayAwake = async () => {
    if (!document.querySelector("[data-keep-awake]") || !("wakeLock" in navigator)) return;
    try {
      await navigator.wakeLock.request("screen");
    } catch {
      // the browser would rather not; nothing depends on it
    }
  };

  document.addEventListener("visibilitychange", () => {
    if (document.visibilityState === "visible") stayAwake();
  });
  stayAwake();
  tick();
  setInterval(tick, 1000);
})();
