// Rows of the editor are dragged by their number; the move itself is the server's, by the press of a button.
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

  document.addEventListener("dragend", () => {
    from = null;
    clear();
  });
})();
