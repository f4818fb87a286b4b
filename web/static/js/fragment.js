// Forms with data-fragment="#id" are sent in the background; the answer, a piece
// of page, takes the place of that element. When the line is lost or the server
// refuses, a sentence appears and what was typed stays.
(function () {
  "use strict";

  function problemIn(form, target) {
    return form.querySelector("[data-problem]") || target.querySelector("[data-problem]");
  }

  function say(place, text) {
    if (place) place.textContent = text;
  }

  // ask posts fields and resolves to the piece of page that comes back, or null
  // when there is a sentence to read instead.
  async function ask(url, fields, problem) {
    say(problem, "");
    let answer, text;
    try {
      answer = await fetch(url, { method: "POST", body: fields, headers: { "X-Fragment": "1" }, redirect: "error" });
      text = await answer.text();
    } catch {
      say(problem, "The connection is lost. What you typed is still here; press Enter to try again.");
      return null;
    }
    if (answer.ok && answer.headers.get("X-Go")) {
      window.location.href = answer.headers.get("X-Go");
      return null;
    }
    const isPiece = (answer.headers.get("Content-Type") || "").startsWith("text/html");
    if (!isPiece) {
      say(problem, text);
      return null;
    }
    return new DOMParser().parseFromString(text, "text/html").body.firstElementChild;
  }

  // Jobs run one after another, so that what is done quickly on a slow line is
  // done in its order and on the page that the job before it left.
  let last = Promise.resolve();
  function inTurn(job) {
    last = last.then(job, job);
    return last;
  }

  // carry takes what was typed elsewhere while the answer was on its way over to
  // the fields that come in place of the old ones.
  function carry(old, piece, sent) {
    old.querySelectorAll("input[id]:not([type=hidden])").forEach((field) => {
      const typed = field.value !== field.defaultValue && !(sent && sent.contains(field));
      const fresh = typed && piece.querySelector("#" + CSS.escape(field.id));
      if (!fresh) return;
      fresh.value = field.value;
      if (field === document.activeElement) fresh.dataset.typing = "yes";
    });
  }

  // send asks and puts the piece in the target's place.
  async function send(url, fields, target, problem, sent) {
    const piece = await ask(url, fields, problem);
    if (!piece) return null;
    carry(target, piece, sent);
    target.replaceWith(piece);
    // What was done can change what the page shows; loading it again shows the same.
    if (piece.dataset.address) history.replaceState(null, "", piece.dataset.address);
    return piece;
  }

  // focusAfter puts the cursor where the work goes on: after a problem in the
  // same field, after a tempo in the next person's, else at the start.
  function focusAfter(piece, form, field) {
    const typing = piece.querySelector("[data-typing]");
    if (typing) return typing.focus();
    const wrong = piece.querySelector("[aria-invalid=true]");
    if (wrong) return wrong.focus();
    if (field && form.hasAttribute("data-next")) {
      const fields = Array.from(piece.querySelectorAll("form[data-next] .tempo-in"));
      const at = fields.findIndex((f) => f.id === field.id);
      return (fields[at + 1] || fields[at] || piece).focus();
    }
    const first = piece.querySelector("[data-first]");
    if (first) first.focus();
  }

  document.addEventListener("submit", (event) => {
    const form = event.target;
    if (!form.dataset.fragment || !document.querySelector(form.dataset.fragment)) return;
    event.preventDefault();
    if (form.dataset.sending) return;
    form.dataset.sending = "yes";
    const field = form.querySelector("input:not([type=hidden])");
    const fields = new URLSearchParams(new FormData(form, event.submitter));
    inTurn(async () => {
      const target = document.querySelector(form.dataset.fragment);
      // A form of a page that has changed in the meantime means something else by now.
      if (!target || (!form.isConnected && fields.has("version"))) return;
      const piece = await send(form.getAttribute("action"), fields, target, problemIn(form.isConnected ? form : target, target), form);
      delete form.dataset.sending;
      if (piece) focusAfter(piece, form, field);
    });
  });

  window.arplin = { ask, send, inTurn };
})();
