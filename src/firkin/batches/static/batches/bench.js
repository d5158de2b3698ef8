// At the bench: timers count down and are heard and felt, the step is read aloud, and the screen stays awake, where the
// browser can. The server keeps the time.
(() => {
  "use strict";
  const two = (n) => String(n).padStart(2, "0");

  // Three short tones. A browser that was not touched yet stays silent, and the words say it.
  const sound = () => {
    if (!window.AudioContext) return;
    const audio = new AudioContext();
    [0, 0.4, 0.8].forEach((after) => {
      const tone = audio.createOscillator();
      tone.frequency.value = 880;
      tone.connect(audio.destination);
      tone.start(audio.currentTime + after);
      tone.stop(audio.currentTime + after + 0.2);
    });
    setTimeout(() => audio.close(), 2000);
  };

  // What stands on the card of the step, as it would be read to somebody with wet hands.
  const aloud = () => {
    const said = ".task-text, .task-target, .task-what, .portions, .field-error";
    return [...document.querySelectorAll(".task")]
      .flatMap((card) => [...card.querySelectorAll(said)])
      .map((part) => part.innerText.replace(/\s+/g, " ").replace(/\bmL\b/g, "millilitres").replace(/\bg\b/g, "grams").trim())
      .join(". ");
  };

  const tick = () => {
    document.querySelectorAll("[data-timer-end]").forEach((place) => {
      const left = Math.round((new Date(place.dataset.timerEnd) - Date.now()) / 1000);
      if (left <= 0) {
        if (!place.dataset.done) {
          place.dataset.done = "1";
          place.textContent = "Time is up";
          if (navigator.vibrate) navigator.vibrate([300, 150, 300]);
          sound();
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

  if ("speechSynthesis" in window) {
    document.querySelectorAll("[data-aloud]").forEach((button) => {
      button.hidden = false;
      button.addEventListener("click", () => {
        speechSynthesis.cancel();
        speechSynthesis.speak(new SpeechSynthesisUtterance(aloud()));
      });
    });
  }

  document.addEventListener("visibilitychange", () => {
    if (document.visibilityState === "visible") stayAwake();
  });
  stayAwake();
  tick();
  setInterval(tick, 1000);
})();
