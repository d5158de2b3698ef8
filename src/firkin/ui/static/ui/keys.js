// Keys that work while nothing is being typed: / to the search, ? for the list of keys, a digit for a room,
// A for the answer, N for what comes next. None of them presses anything.
(() => {
  "use strict";
  const list = () => document.getElementById("keys");
  const follow = (link) => link && link.click();
  const answer = () => document.querySelector("#answer, #check-answer, #editor-answer, .task");

  const ACTS = {
    "/": () => {
      const field = document.querySelector(".search-form input");
      if (field) field.focus();
      else follow(document.querySelector("[data-search]"));
    },
    "?": () => list() && list().showModal(),
    a: () => {
      const place = answer();
      if (!place) return;
      place.tabIndex = -1;
      place.focus();
    },
    n: () => {
      const all = [...document.querySelectorAll("main .btn-primary")].filter((one) => one.offsetParent && !one.disabled);
      if (all.length) all[(all.indexOf(document.activeElement) + 1) % all.length].focus();
    },
  };

  // Where amounts are typed a digit that missed its field leads nowhere: what was typed would be lost.
  const typesAmounts = () => document.querySelector(".task, #editor, .check-page");

  const actOf = (key) => {
    if (/^[1-9]$/.test(key) && typesAmounts()) return null;
    if (/^[1-9]$/.test(key)) return () => follow(document.querySelectorAll(".rooms a")[key - 1]);
    return ACTS[key.toLowerCase()];
  };

  document.addEventListener("keydown", (event) => {
    const typing = event.target.closest("input, textarea, select, dialog, [contenteditable]");
    if (typing || event.ctrlKey || event.metaKey || event.altKey || !document.querySelector(".rooms")) return;
    const act = actOf(event.key);
    if (!act) return;
    event.preventDefault();
    act();
  });

  document.addEventListener("click", (event) => {
    if (!list() || !event.target.closest("[data-keys]")) return;
    event.preventDefault();
    list().showModal();
  });
})();
