// What a live answer comes to is said to a screen reader in one sentence, once typing has paused, and not read out whole.
(() => {
  "use strict";
  const PAUSE_MS = 1000;
  const MOST = 200;
  const SAID = "[data-heard], .answer-bar, .answer-head, .waiting";
  let timer = 0;

  const sentence = (part) => {
    const said = part.matches(SAID) ? part : part.querySelector(SAID);
    const words = said ? said.innerText.replace(/\s+/g, " ").trim() : "";
    return words.length > MOST ? `${words.slice(0, MOST).replace(/\s\S*$/, "")} …` : words;
  };

  document.addEventListener("htmx:afterSettle", (event) => {
    const part = event.target.closest && (event.target.closest("[data-live-answer]") || event.target.querySelector("[data-live-answer]"));
    const heard = document.getElementById("heard");
    if (!part || !heard) return;
    clearTimeout(timer);
    timer = setTimeout(() => {
      const words = sentence(part);
      if (words && words !== heard.textContent) heard.textContent = words;
    }, PAUSE_MS);
  });
})();
