// Rows of the editor are dragged by their number; the move itself is the server's, by the press of a button. After a
// press the focus stays with its row, wherever that went, and the new place is said.
(() => {
  "use strict";
  let from = null;
  const rowAt = (event) => event.target.closest && event.target.closest("[data-row]");
  const clear = () => document.querySelectorAll(".row-over").forEach((row) => row.classList.remove("row-over"));

  document.addEventListener("dragstart", (event) => {
    if (!event.target.classList || !event.target.classList.contains("order-grip")) return;
    from = rowAt(event);
    event.dataTransfer.effectAllowed = "move";
    event.dataTransfer.setData("text/plain", from.dataset.place);
    event.dataTransfer.setDragImage(from, 12, 12);
  });

  document.addEventListener("dragover", (event) => {
    const over = rowAt(event);
    if (!from || !over || over.dataset.row !== from.dataset.row) return;
    event.preventDefault();
    clear();
    over.classList.add("row-over");
  });

  document.addEventListener("drop", (event) => {
    const over = rowAt(event);
    if (!from || !over || over.dataset.row !== from.dataset.row) return;
    event.preventDefault();
    if (over !== from) {
      const mover = document.querySelector(`[data-mover="${from.dataset.row}"]`);
      mover.value = `move-${from.dataset.row}-${from.dataset.place}-to-${over.dataset.place}`;
      mover.click();
    }
    from = null;
  });

  const PRESSED = /^(up|down|drop|add)-(line|step|act)(?:-(\d+))?$/;

  // The place a row is in after a press, counted from 0; of a row that was taken out, that of the one after it.
  const placeAfter = (act, place, last) => {
    const there = { up: place - 1, down: place + 1, drop: place, add: last }[act];
    return Math.max(0, Math.min(there, last));
  };

  document.addEventListener("htmx:afterSettle", (event) => {
    const pressed = event.detail.requestConfig && event.detail.requestConfig.elt;
    if (!pressed || !pressed.matches("button")) return;
    if (pressed.value === "usual-steps") {
      const first = document.querySelector('[data-row="step"] input, [data-row="step"] select');
      if (first) first.focus();
    }
    const words = PRESSED.exec(pressed.value);
    if (!words) return;
    const [, act, kind, from] = words;
    const rows = document.querySelectorAll(`[data-row="${kind}"]`);
    if (!rows.length) return;
    const place = placeAfter(act, Number(from), rows.length - 1);
    const row = rows[place];
    const button = act === "add" ? null : row.querySelector(`button[value="${act}-${kind}-${place}"]`);
    (button || row.querySelector("input, select")).focus();
    const moved = act === "up" || act === "down";
    document.getElementById("order-said").textContent = moved ? `Now ${kind} ${place + 1} of ${rows.length}` : "";
  });

  document.addEventListener("dragend", () => {
    from = null;
    clear();
  });
})();
