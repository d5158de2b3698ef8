/* Questions are found while their words are typed; without it the button asks the server. */
(() => {
  const form = document.querySelector("[data-filter=ask]");
  if (!form) return;
  const asks = [...document.querySelectorAll(".ask")];
  const none = document.querySelector(".ask-none");
  const sift = () => {
    const words = form.q.value.toLowerCase().split(/\s+/).filter(Boolean);
    for (const ask of asks) ask.hidden = !words.every((word) => ask.dataset.words.includes(word));
    for (const group of document.querySelectorAll(".ask-group")) {
      const mine = [...group.querySelectorAll(".ask")];
      if (mine.length) group.hidden = mine.every((ask) => ask.hidden);
      else group.hidden = words.length > 0;
    }
    none.hidden = asks.some((ask) => !ask.hidden);
  };
  form.addEventListener("input", sift);
  form.addEventListener("submit", (event) => {
    const found = asks.filter((ask) => !ask.hidden);
    if (found.length !== 1) return;
    event.preventDefault();
    found[0].querySelector("a").click();
  });
})();
