// The season's drawing: a batch is dragged to another day, or moved by the arrow keys, an evening at a time.
(() => {
  "use strict";
  const sheet = document.querySelector("[data-season]");
  const svg = sheet && sheet.querySelector("svg.season");
  if (!svg) return;
  const LEFT = 206;
  const RIGHT = 1166;
  const days = Number(sheet.dataset.days);
  const form = document.querySelector("[data-move]");
  const toDay = (x) => Math.round(((x - LEFT) / (RIGHT - LEFT)) * days);
  const dateOf = (day) => {
    const date = new Date(`${sheet.dataset.from}T12:00:00Z`);
    date.setUTCDate(date.getUTCDate() + day);
    return date.toISOString().slice(0, 10);
  };
  const at = (event) => {
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM().inverse());
    return point.x;
  };
  let held = null;

  // A press on a cask opens it; once it is open it can be dragged, and the arrow keys move it.
  svg.addEventListener("pointerdown", (event) => {
    const cask = event.target.closest("a.cask.chosen");
    if (!cask || !form || event.button) return;
    held = { cask, from: at(event), moved: 0, pointer: event.pointerId };
    cask.setPointerCapture(event.pointerId);
    event.preventDefault();
  });
  svg.addEventListener("pointermove", (event) => {
    if (!held) return;
    held.moved = at(event) - held.from;
    held.cask.setAttribute("transform", `translate(${held.moved} 0)`);
  });
  svg.addEventListener("pointerup", (event) => {
    if (!held) return;
    const { cask, moved } = held;
    held = null;
    const steps = toDay(LEFT + moved);
    if (!steps) {
      cask.removeAttribute("transform");
      return;
    }
    const field = form.elements.to;
    const day = Math.round((new Date(field.value) - new Date(sheet.dataset.from)) / 86400000) + steps;
    field.value = dateOf(Math.max(0, Math.min(days - 1, day)));
    form.requestSubmit(form.querySelector("button:not([name])"));
    event.preventDefault();
  });
  svg.addEventListener("click", (event) => {
    if (event.target.closest("a.cask.chosen")) event.preventDefault();
  });
  document.addEventListener("keydown", (event) => {
    const where = { ArrowLeft: "earlier", ArrowRight: "later" }[event.key];
    if (!where || !form || !document.activeElement.closest("a.cask.chosen")) return;
    event.preventDefault();
    form.requestSubmit(form.querySelector(`button[value=${where}]`));
  });
})();
