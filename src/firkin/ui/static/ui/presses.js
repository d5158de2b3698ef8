// A press of a button wins over the live look at what was typed: the press brings what was typed along, and its answer
// is the newer one. While a press is on its way no live request goes out, and one that is out is given up.
(() => {
  "use strict";
  const pressing = new Set(); // the requests of presses that are on their way

  document.addEventListener("htmx:beforeRequest", (event) => {
    const element = event.detail.elt;
    if (element.matches("button")) {
      pressing.add(event.detail.xhr);
      document.querySelectorAll("[data-live]").forEach((live) => htmx.trigger(live, "htmx:abort"));
    } else if (pressing.size && element.matches("[data-live]")) {
      event.preventDefault();
    }
  });
  ["htmx:afterRequest", "htmx:sendError", "htmx:sendAbort", "htmx:timeout"].forEach((name) => {
    document.addEventListener(name, (event) => pressing.delete(event.detail.xhr));
  });
})();

// An answer that did not come is said: what stands on the page is from before the last change.
(() => {
  "use strict";
  const line = document.createElement("p");
  line.className = "said said-not unanswered";
  line.setAttribute("role", "alert");
  const says = (text) => {
    line.textContent = text;
    document.body.append(line);
  };
  ["htmx:sendError", "htmx:timeout"].forEach((name) => {
    document.addEventListener(name, () => {
      says("Firkin did not answer. What you typed is kept; what was worked out here is from before your last change.");
    });
  });
  document.addEventListener("htmx:responseError", (event) => {
    const old = event.detail.xhr.status === 403;
    says(
      (old ? "This page is out of date: you signed in anew, or may not write here." : "Firkin could not work that out.") +
        " What you typed is kept; what was worked out here is from before your last change.",
    );
  });
  document.addEventListener("htmx:beforeSwap", (event) => {
    if (event.detail.shouldSwap) line.remove();
  });
})();

// What stands in a field for a figure is selected when it is entered, so that typing replaces it.
document.addEventListener("focusin", (event) => {
  if (event.target.matches("input[data-select]")) event.target.select();
});
document.addEventListener("DOMContentLoaded", () => {
  const here = document.activeElement;
  if (here && here.matches("input[data-select]")) here.select();
});
