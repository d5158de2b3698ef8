// An outbox in the open tab: a press at the bench is kept until the server has it. It goes out once and in order; while
// its answer is on the way the button says so, and while the connection is gone the page says what is not stored yet.
(() => {
  "use strict";
  const SHELF = "firkin-outbox";
  const AGAIN_MS = 3000;
  const PATIENCE_MS = 20000;
  const waiting = JSON.parse(sessionStorage.getItem(SHELF) || "[]");
  let sending = false;
  let timer = 0;

  const line = document.createElement("div");
  line.className = "said said-not outbox";
  line.setAttribute("role", "alert");

  const keep = () => sessionStorage.setItem(SHELF, JSON.stringify(waiting));

  // The notice lies over the page's end: the page gets so much longer, and a field in use is not left beneath it.
  const makeRoom = () => {
    const height = line.isConnected ? window.innerHeight - line.getBoundingClientRect().top : 0;
    document.body.style.paddingBottom = height ? `${height + 8}px` : "";
    document.documentElement.style.scrollPaddingBottom = height ? `${height + 8}px` : "";
    const field = document.activeElement;
    if (height && field !== document.body && field.getBoundingClientRect().bottom > window.innerHeight - height) {
      field.scrollIntoView({ block: "nearest" });
    }
  };

  const tell = (gone) => {
    if (!gone || !waiting.length) {
      line.remove();
      makeRoom();
      return;
    }
    const list = document.createElement("ul");
    waiting.forEach((press) => {
      const item = document.createElement("li");
      item.textContent = `${press.words} (${press.at})`;
      list.append(item);
    });
    const head = document.createElement("p");
    head.textContent = "No connection. Not stored yet:";
    const foot = document.createElement("p");
    foot.textContent = "It is sent as soon as the connection is back. Keep this page open.";
    line.replaceChildren(head, list, foot);
    document.body.append(line);
    makeRoom();
  };

  // What was typed and which button was pressed, as the maker would say it.
  const wordsOf = (form, button) => {
    const typed = [...form.elements]
      .filter((one) => one.matches("input:not([type=hidden]):not([type=checkbox]), textarea, select") && one.value)
      .map((one) => (one.matches("select") ? one.selectedOptions[0].textContent.trim() : one.value));
    const said = button ? button.textContent.trim().replace(/\s+/g, " ") : "";
    return [said, typed.join(" ")].filter(Boolean).join(": ").slice(0, 120);
  };

  // What was refused is shown by the server itself: the same press, sent as a page of its own.
  const asAPage = (press) => {
    const form = document.createElement("form");
    form.method = "post";
    form.action = press.url;
    new URLSearchParams(press.body).forEach((value, name) => {
      const field = document.createElement("input");
      field.type = "hidden";
      field.name = name;
      field.value = value;
      form.append(field);
    });
    document.body.append(form);
    form.submit();
  };

  const send = async () => {
    if (sending || !waiting.length) return;
    sending = true;
    clearTimeout(timer);
    const press = waiting[0];
    try {
      const answer = await fetch(press.url, {
        method: "POST",
        body: press.body,
        headers: { "Content-Type": "application/x-www-form-urlencoded", "Firkin-Outbox": "1" },
        signal: AbortSignal.timeout(PATIENCE_MS),
      });
      if ([502, 503, 504].includes(answer.status)) throw new Error("nobody there");
      waiting.shift();
      keep();
      const next = answer.headers.get("Firkin-Go");
      if (next === null) {
        asAPage(press);
      } else if (!waiting.length) {
        leaving = true;
        if (next === location.pathname + location.search) location.reload();
        else location.assign(next);
      }
      sending = false;
      tell(false);
      send();
    } catch {
      sending = false;
      tell(true);
      timer = setTimeout(send, AGAIN_MS);
    }
  };

  let leaving = false;
  document.addEventListener("submit", (event) => {
    const form = event.target;
    const button = event.submitter;
    const plain = form.method === "post" && form.enctype !== "multipart/form-data" && !form.matches("[hx-post]");
    if (event.defaultPrevented || !plain || (button && button.hasAttribute("formaction"))) return;
    event.preventDefault();
    if (form.dataset.sent || leaving) return; // the second of two quick presses
    form.dataset.sent = "1";
    const data = new FormData(form);
    if (button && button.name) data.append(button.name, button.value);
    const at = new Date().toLocaleTimeString([], { hour: "2-digit", minute: "2-digit", hour12: false });
    const url = form.getAttribute("action") ? form.action : location.href;
    waiting.push({ url, body: new URLSearchParams(data).toString(), words: wordsOf(form, button), at });
    keep();
    if (button) {
      button.setAttribute("aria-busy", "true");
      button.classList.add("on-its-way");
    }
    send();
  });

  addEventListener("online", send);
  addEventListener("pageshow", (event) => {
    if (event.persisted) location.reload(); // from the back button: what stood here is from before
  });
  addEventListener("beforeunload", (event) => {
    if (waiting.length && !leaving) event.preventDefault();
  });
  if (waiting.length) send();
})();
