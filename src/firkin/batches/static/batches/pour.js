// Hold to pour: what is held and let go is told to the server, which keeps the scale; its reading is asked for while
// the page is open.
(() => {
  "use strict";
  const place = document.querySelector("[data-pour]");
  if (!place) return;
  const live = document.getElementById("pour-live");
  const take = document.getElementById("pour-take");
  const token = place.querySelector("input[name=csrfmiddlewaretoken]").value;
  let waiting = false;
  let done = Promise.resolve();

  const ask = async (act) => {
    const body = act ? new URLSearchParams({ act, csrfmiddlewaretoken: token }) : null;
    const answer = await fetch(place.dataset.pour, body ? { method: "POST", body } : {});
    if (answer.status !== 200) return;
    live.innerHTML = await answer.text();
    const shown = live.querySelector("[data-grams]");
    take.querySelector("input[name=amount]").value = `${shown.dataset.grams} g`;
    take.querySelector("button span").textContent = `Take ${shown.dataset.grams} g`;
    take.querySelector("button").disabled = !shown.dataset.settled;
  };

  // One act after the other: a release that overtook its press would leave the stream running.
  const tell = (act) => {
    done = done.then(() => ask(act)).catch(() => {
      if (act === "release") setTimeout(() => tell(act), 300); // the server is away for a moment
    });
  };

  const look = async () => {
    if (waiting || document.hidden) return;
    waiting = true;
    try {
      await ask("");
    } catch {
      // the server is away for a moment; ask again
    } finally {
      waiting = false;
    }
  };

  const hold = (button, act) => {
    let held = false;
    const press = (event) => {
      event.preventDefault();
      if (!held) {
        held = true;
        tell(act);
      }
    };
    const let_go = () => {
      if (held) {
        held = false;
        tell("release");
      }
    };
    button.addEventListener("pointerdown", press);
    button.addEventListener("keydown", (event) => (event.key === " " || event.key === "Enter") && press(event));
    ["pointerup", "pointerleave", "pointercancel", "keyup", "blur"].forEach((name) => button.addEventListener(name, let_go));
    window.addEventListener("blur", let_go);
  };

  place.querySelectorAll("[data-hold]").forEach((button) => hold(button, button.dataset.hold));
  place.querySelectorAll("[data-tap]").forEach((button) => button.addEventListener("click", () => tell(button.dataset.tap)));
  setInterval(look, 300);
})();
