// What all pages share. htmx sends forms and morphs the piece of page that comes
// back into place; here is what a teacher expects beside that: things happen in
// the order in which they were done, what was typed is never lost, the focus
// stays, and what was opened stays open.
(function () {
  "use strict";
  const lost = "The connection is lost. What you typed is still here; press Enter to try again.";
  const all = (selector, from = document) => Array.from(from.querySelectorAll(selector));

  // The sentence about something stands nearest to it; an old success goes.
  function say(from, text) {
    let el = from.isConnected ? from : document.body;
    let place;
    for (; el && !place; el = el.parentElement) place = all("[data-problem]", el).find((p) => p.parentElement.offsetParent);
    if (place) place.textContent = text;
    if (text) all("[data-note]").forEach((note) => note.replaceChildren());
  }

  // Jobs run one after another, each on the page that the one before it left.
  let last = Promise.resolve();
  const inTurn = (job) => (last = last.then(job, job));
  const finished = (elt) => new Promise((resolve) => {
    document.addEventListener("htmx:afterRequest", function heard(event) {
      if (event.detail.requestConfig.elt !== elt) return;
      document.removeEventListener("htmx:afterRequest", heard);
      resolve(event.detail.successful);
    });
  });

  let free = null; // whose turn it is
  const sending = new WeakSet(); // forms that are under way
  let sent = new Map(); // fields that are under way, with what they said
  let was = null; // what had the focus before an answer

  // post sends fields, or what a function makes of the page when its turn comes;
  // it resolves to whether it was done.
  function post(elt, url, fields, fieldsSent = []) {
    return inTurn(() => {
      const values = typeof fields === "function" ? fields() : fields;
      if (!values) return false;
      sent = new Map(fieldsSent.map((field) => [field, field.value]));
      free = elt;
      const done = finished(elt);
      htmx.ajax("POST", url, { source: elt, target: elt, values });
      return done;
    });
  }

  document.addEventListener("htmx:confirm", (event) => {
    const { elt, verb, issueRequest } = event.detail;
    if (verb !== "post") return;
    if (elt === free) {
      free = null;
      return;
    }
    event.preventDefault();
    if (sending.has(elt)) return;
    sending.add(elt);
    inTurn(() => {
      sending.delete(elt);
      if (!elt.isConnected) return false; // a form of a page that has changed means something else by now
      sending.add(elt);
      const done = finished(elt).finally(() => sending.delete(elt));
      issueRequest(true);
      return done;
    });
  });
  document.addEventListener("htmx:configRequest", (event) => {
    const { elt, verb, parameters, target } = event.detail;
    if (verb !== "post") return;
    const page = target && target.closest("[data-version]");
    if (page) parameters.version = page.dataset.version;
    if (page || elt.matches("form")) say(elt, "");
    if (elt.matches("form")) sent = new Map(all("input, textarea", elt).map((field) => [field, field.value]));
  });
  document.addEventListener("htmx:sendError", (event) => say(event.detail.requestConfig.elt, lost));
  document.addEventListener("htmx:beforeSwap", (event) => {
    const { xhr, requestConfig: { elt } } = event.detail;
    was = document.activeElement;
    if (xhr.status < 400) return;
    if ((xhr.getResponseHeader("Content-Type") || "").startsWith("text/html")) event.detail.shouldSwap = true;
    else say(elt, xhr.responseText);
  });
  document.addEventListener("htmx:afterRequest", (event) => {
    const { successful, requestConfig: { elt, verb } } = event.detail;
    if (verb !== "post") return;
    if (successful) {
      sent.forEach((value, field) => { if (field.value === value) field.value = field.defaultValue; });
    }
    sent = new Map();
    // The focus goes on with the work, unless the hand has gone elsewhere.
    if (successful && elt.isConnected && elt.contains(document.activeElement)) {
      const fields = all("[data-next] .tempo-in");
      if (elt.hasAttribute("data-next")) return fields[(fields.indexOf(document.activeElement) + 1) % fields.length].focus();
      const first = elt.querySelector("[data-first]");
      if (first) first.focus();
    } else if (was && was.id && document.activeElement === document.body) {
      const same = document.getElementById(was.id);
      if (same) same.focus({ preventScroll: true });
    }
  });

  // Morphing keeps what the hand has done on the page.
  const typed = (field) => field.matches("input, textarea") && field.type !== "hidden" && field.value !== field.defaultValue && sent.get(field) !== field.value;
  Object.assign(Idiomorph.defaults, { ignoreActiveValue: true });
  Object.assign(Idiomorph.defaults.callbacks, {
    beforeAttributeUpdated(name, el) {
      if (name === "open" && el.matches("details")) return false;
      if (name === "tabindex" && el.matches(".onebar, .step")) return false;
      return !(name === "value" && typed(el));
    },
    beforeNodeRemoved: (el) => !(el.nodeType === 1 && el.hasAttribute("data-keep")),
    beforeNodeMorphed(old, fresh) {
      if (old.nodeType !== 1 || !old.dataset.loaded) return true;
      old.dataset.lazy = fresh.dataset.lazy;
      old.dataset.loaded = "old";
      return false;
    },
  });

  // What is folded is asked for when it is opened, and again when it has changed.
  function load(details) {
    all("[data-lazy]", details).forEach((place) => {
      if (!details.open || place.closest("details") !== details || place.dataset.loaded === "yes") return;
      place.dataset.loaded = "yes";
      htmx.ajax("GET", place.dataset.lazy, { source: place, target: place, swap: "innerHTML" });
    });
  }
  document.addEventListener("toggle", (event) => load(event.target), true);
  document.addEventListener("htmx:afterSettle", () => all("details[open]").forEach(load));
  document.addEventListener("htmx:responseError", (event) => {
    const place = event.detail.elt.closest("[data-lazy]");
    if (place && event.detail.requestConfig.verb === "get") {
      place.textContent = event.detail.xhr.responseText;
      place.dataset.loaded = "";
    }
  });

  // Choices show at once; with the arrow keys they show when the hand is done.
  let byKey = null;
  document.addEventListener("keydown", (event) => {
    const choice = event.target.closest("[data-choices] select");
    byKey = choice;
    if (choice && event.key === "Enter") choice.form.requestSubmit();
  });
  document.addEventListener("pointerdown", () => { byKey = null; });
  document.addEventListener("change", (event) => {
    const form = event.target.closest("[data-choices]");
    if (!form) return;
    if (byKey === event.target) form.dataset.changed = "yes";
    else form.requestSubmit();
  });
  document.addEventListener("focusout", (event) => {
    const form = event.target.closest("[data-choices]");
    if (form && form.dataset.changed) form.requestSubmit();
  });
  document.addEventListener("submit", (event) => delete event.target.dataset.changed);
  document.addEventListener("click", (event) => {
    if (event.target.closest("[data-print]")) window.print();
  });

  // A bar or a step has the focus; keys are its own unless something in it has them.
  const busy = (event) => event.target.closest("form, summary, a, .panel, .dropdown") || event.altKey && !event.key.startsWith("Arrow");
  function undoKey(event) {
    const key = event.key.toLowerCase();
    if (!(event.ctrlKey || event.metaKey) || event.altKey || !"zy".includes(key)) return "";
    return key === "y" || event.shiftKey ? "redo" : "undo";
  }
  function rove(list, at) {
    const next = list[Math.min(Math.max(at, 0), list.length - 1)];
    list.forEach((el) => { el.tabIndex = el === next ? 0 : -1; });
    if (next) next.focus();
  }
  window.arplin = { all, say, post, busy, undoKey, rove };
})();
