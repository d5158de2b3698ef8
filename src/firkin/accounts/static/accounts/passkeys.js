// Passkeys: what the server asks for is shown to the browser, and what the browser signs is sent back.
(() => {
  "use strict";
  const Credential = window.PublicKeyCredential;
  if (!Credential || !Credential.parseCreationOptionsFromJSON) return; // the buttons stay hidden

  const ask = async (address, token, body) => {
    const answer = await fetch(address, {
      method: "POST",
      headers: { "Content-Type": "application/json", "X-CSRFToken": token },
      body: JSON.stringify(body),
    });
    if (!answer.ok) throw new Error("refused");
    return answer.json();
  };

  const withNext = (address) => {
    const next = new URLSearchParams(window.location.search).get("next");
    return next ? `${address}?next=${encodeURIComponent(next)}` : address;
  };

  const press = async (place) => {
    const token = place.querySelector("[name=csrfmiddlewaretoken]").value;
    const { begin, complete } = place.dataset;
    const options = await ask(begin, token, {});
    const made = options.rp // the server names itself where a passkey is made, and not where one is asked for
      ? await navigator.credentials.create({ publicKey: Credential.parseCreationOptionsFromJSON(options) })
      : await navigator.credentials.get({ publicKey: Credential.parseRequestOptionsFromJSON(options) });
    const answer = await ask(withNext(complete), token, made.toJSON());
    if (answer.redirect_url) window.location.assign(answer.redirect_url);
    else if (answer.first) document.getElementById("passkey-codes").submit();
    else window.location.reload();
  };

  document.querySelectorAll("[data-passkey]").forEach((place) => {
    const button = place.querySelector("button");
    const error = place.querySelector("[role=alert]");
    place.hidden = false;
    button.addEventListener("click", async () => {
      button.disabled = true;
      error.hidden = true;
      try {
        await press(place);
      } catch (trouble) {
        error.textContent =
          trouble.name === "InvalidStateError"
            ? "This device has a passkey for the account already."
            : "That did not work. Try again, or sign in another way.";
        error.hidden = false;
        button.disabled = false;
      }
    });
  });
})();
