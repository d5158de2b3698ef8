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

// The focus stays where it was when an answer takes the place of what had it: at the same field or button by its id, or
// its name and value; from a button that adds a row in the new row; from what is gone at the nearest that is still there.
(() => {
  "use strict";
  const FOCUSED = "input:not([type=hidden]), select, textarea, button:not([tabindex='-1']), a[href], summary";
  let had = null;

  document.addEventListener("htmx:beforeSwap", () => {
    const here = document.activeElement;
    if (!here || here === document.body) return;
    const around = [];
    for (let above = here.parentElement; above; above = above.parentElement) around.push(above);
    had = { element: here, id: here.id, name: here.name, value: here.value, adds: "adds" in here.dataset, around };
  });

  const again = () => {
    if (had.id && document.getElementById(had.id)) return document.getElementById(had.id);
    const alike = had.name ? [...document.getElementsByName(had.name)] : [];
    return alike.find((one) => one.value === had.value && one.tagName === had.element.tagName);
  };

  const firstIn = (element) => element && [...element.querySelectorAll(FOCUSED)].find((one) => one.checkVisibility());

  document.addEventListener("htmx:afterSettle", () => {
    const lost = had && !had.element.isConnected && (document.activeElement || document.body) === document.body;
    if (lost) {
      const same = again();
      const there = (had.adds && firstIn(same && same.previousElementSibling)) || same;
      const near = there || firstIn(had.around.find((one) => one.isConnected && firstIn(one)));
      if (near) near.focus();
    }
    had = null;
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
