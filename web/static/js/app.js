// htmx sends forms and morphs the answer into the page. Here is what a teacher
// expects beside that: order is kept, nothing typed is lost, the focus stays, and
// what was opened stays open.
import { all } from "./all.js";

const on = (name, handler, capture) => document.addEventListener(name, handler, capture);

// The sentence about something stands nearest to it; an old success goes.
function say(from, text) {
  let place;
  for (let el = from.isConnected ? from : document.body; el && !place; el = el.parentElement) place = all("[data-problem]", el).find((p) => p.parentElement.offsetParent && !p.closest("details:not([open])"));
  if (place) place.textContent = text;
  if (text) all("[data-note]").forEach((note) => note.replaceChildren());
}

// Jobs run one after another, each on the page that the one before it left.
let last = Promise.resolve();
const inTurn = (job) => (last = last.then(job, job));
const waiting = new Map(); // for an answer, by what asks
const finished = (elt) => new Promise((resolve) => waiting.set(elt, resolve));

let free = null; // whose turn it is
const sending = new WeakSet(); // forms
let sent = new Map(); // fields, with what they said
let was = null; // in focus before an answer

// post sends fields, or what a function makes of the page when its turn comes.
function post(elt, url, fields, fieldsSent = []) {
  return inTurn(() => {
    const values = fields.call ? fields() : fields;
    if (!values) return false;
    sent = new Map(fieldsSent.map((field) => [field, field.value]));
    free = elt;
    htmx.ajax("POST", url, { source: elt, target: elt, values });
    return finished(elt);
  });
}

on("htmx:confirm", (event) => {
  const { elt, verb, issueRequest } = event.detail;
  if (verb !== "post") return;
  if (elt === free) return void (free = null);
  event.preventDefault();
  if (sending.has(elt)) return;
  if (elt.matches("form[action='/log']") && !all("input:not([type=hidden])", elt).some((field) => field.value.trim())) return; // it was sent already, by itself
  sending.add(elt);
  inTurn(() => {
    if (!elt.isConnected) return false; // the page has changed: the form means something else
    issueRequest(true);
    return finished(elt);
  });
});
on("htmx:configRequest", (event) => {
  const { elt, verb, parameters, target } = event.detail;
  if (verb !== "post") return;
  // A form goes where its action says, with a script or without.
  if (elt.getAttribute("hx-post") === "") event.detail.path = elt.getAttribute("action");
  const page = target && target.closest("[data-version]");
  if (page) parameters.version = page.dataset.version;
  if (page || elt.matches("form")) say(elt, "");
  if (elt.matches("form")) sent = new Map(all("input, textarea", elt).map((field) => [field, field.value]));
});
on("htmx:sendError", (event) => {
  const { elt } = event.detail.requestConfig;
  delete elt.dataset.loaded;
  if (!elt.matches("form[action='/log']")) return void say(elt, "You’re offline. What you typed is still here. Press Enter to try again.");
  say(elt, "You’re offline. Your entry will be sent when you’re back online.");
  unsent.add(elt);
  setTimeout(resend, 1500);
});

// Lines of the log that could not be sent wait in their fields. When the server answers
// again they are sent in order; each has an id of its own, so that one that did arrive
// is one.
const unsent = new Set(); // forms
let asking = false;
async function resend() {
  if (asking || !unsent.size) return;
  asking = true;
  const there = await fetch("/healthz", { cache: "no-store" }).then((answer) => answer.ok, () => false);
  asking = false;
  if (!there) return void setTimeout(resend, 3000);
  const forms = [...unsent];
  unsent.clear();
  forms.filter((form) => form.isConnected && all("input:not([type=hidden])", form).some((field) => field.value)).forEach((form) => form.requestSubmit());
}
addEventListener("online", resend);
// What was kept through a sign-in in another tab goes with a token of that session.
const renew = (token) => {
  all("input[name=_csrf]").forEach((field) => { field.value = token; });
  document.body.setAttribute("hx-headers", JSON.stringify({ "X-Csrf-Token": token }));
};
on("submit", async (event) => {
  const form = event.target;
  if (!form.matches("form[data-again]")) return;
  event.preventDefault();
  await fetch("/token", { cache: "no-store" }).then((answer) => answer.ok && answer.text().then(renew)).catch(() => {});
  form.submit();
});
on("htmx:beforeSwap", (event) => {
  const { xhr, requestConfig: { elt } } = event.detail;
  was = document.activeElement;
  const token = xhr.status === 403 && xhr.getResponseHeader("X-Csrf-Token");
  if (token) renew(token);
  if (xhr.status < 400) return;
  if (/^text.html/.test(xhr.getResponseHeader("Content-Type"))) event.detail.shouldSwap = true;
  else if (elt.dataset.lazy) elt.textContent = xhr.responseText;
  else say(elt, xhr.responseText);
});
on("htmx:afterRequest", (event) => {
  const { successful, requestConfig: { elt, verb } } = event.detail;
  if (verb !== "post") return;
  waiting.get(elt)?.(successful);
  sending.delete(elt);
  if (successful) sent.forEach((value, field) => { if (field.value === value) field.value = field.defaultValue; });
  sent = new Map();
  // The focus goes on with the work, unless the hand has gone elsewhere.
  if (successful && elt.isConnected && elt.contains(document.activeElement)) {
    const fields = all("[data-next] .tempo-in");
    if (elt.hasAttribute("data-next")) return fields[(fields.indexOf(document.activeElement) + 1) % fields.length].focus();
    if (elt.matches("form")) elt.querySelector("[data-first]")?.focus();
  } else if (was && was.id && document.activeElement === document.body) {
    document.getElementById(was.id)?.focus({ preventScroll: true });
  }
  if (was && was !== document.body && document.activeElement === document.body) document.getElementById("main").focus({ preventScroll: true }); // what had it is gone
});

// Morphing keeps what the hand has done on the page.
const typed = (el) => el.matches("input:not([type=hidden]), textarea") && el.value !== el.defaultValue && sent.get(el) !== el.value;
Object.assign(Idiomorph.defaults.callbacks, {
  beforeAttributeUpdated(name, el) {
    if (name === "value") return !typed(el);
    return name !== "open" && !(name === "tabindex" && el.matches(".onebar, .step"));
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
    if (place.closest("details:not([open])") || place.dataset.loaded === "yes") return;
    place.dataset.loaded = "yes";
    const wait = document.createElement("p"); // long work says that it is on
    wait.className = "sub";
    wait.innerHTML = '<span class="spinner-border spinner-border-sm" aria-hidden="true"></span> One moment…';
    if (!place.querySelector("form, table, svg, ol")) place.replaceChildren(wait);
    htmx.ajax("GET", place.dataset.lazy, { source: place, target: place, swap: "innerHTML" });
  });
}
on("toggle", (event) => load(event.target), true);
on("show.bs.offcanvas", (event) => load(event.target));
on("htmx:afterSettle", () => all("details[open], [data-soon]").forEach(load));
queueMicrotask(() => all("[data-soon]").forEach(load)); // beside the page, as soon as it stands

// Another line is another thing to do: it gets an id of its own.
on("input", ({ target }) => {
  const id = target.form?.elements.client_id;
  if (id) id.value = Array.from(crypto.getRandomValues(new Uint32Array(4)), (n) => n.toString(36).padStart(7, "0")).join("");
});

// A decision is one key in a student's empty field.
const decisions = { "=": (form) => form.dataset.takes, ">": () => "move-on", "<": () => "ease", "-": () => "stay" };
on("keydown", (event) => {
  const form = event.target.closest("form[data-who]");
  if (form && !event.target.value && event.key === "*") { // all that are ready
    event.preventDefault();
    const ready = document.querySelector("#log form.actions[action='/decisions']");
    if (ready) return void ready.requestSubmit();
    const { elements } = form; // the desk says why nobody is
    return void post(document.getElementById("log"), "/decisions", { class: elements.class.value, ladder: elements.ladder.value, all: "yes" });
  }
  if (!form || event.target.value || !decisions[event.key] || event.ctrlKey || event.altKey || event.metaKey) return;
  event.preventDefault();
  const kind = decisions[event.key](form);
  if (form.dataset.step === "0") return void say(form, "No step yet. Find one first.");
  if (!kind) return void say(form, "Nothing is suggested right now.");
  const { elements } = form;
  const fields = { class: elements.class.value, ladder: elements.ladder.value, decision: `${form.dataset.who} ${kind} ${form.dataset.step}` };
  if (elements.beside) fields.beside = elements.beside.value;
  post(document.getElementById("log"), "/decisions", fields);
});

// Choices show at once; with the arrow keys they show when the hand is done.
let byKey = null;
let changed = null;
const show = (choice) => {
  changed = null;
  choice.form.requestSubmit();
};
on("keydown", (event) => {
  byKey = event.target.closest("[data-choices] select");
  if (byKey && event.key === "Enter") show(byKey);
});
on("pointerdown", () => { byKey = null; });
on("change", ({ target }) => {
  if (byKey === target) changed = target;
  else if (target.closest("[data-choices]")) show(target);
});
on("focusout", () => { if (changed) show(changed); });
on("click", (event) => { if (event.target.closest("[data-print]")) window.print(); });
on("click", async ({ target }) => {
  const button = target.closest("[data-copy]");
  if (!button) return;
  const copied = await navigator.clipboard?.writeText(button.dataset.copy).then(() => true, () => false);
  if (copied) button.textContent = "Copied";
  else window.prompt("Copy this link:", button.dataset.copy); // without https a page may not touch the clipboard
});

// A bar or a step has the focus; keys are its own unless something in it has them.
// What takes a while says so where it was pressed.
on("submit", ({ submitter }) => {
  if (!submitter?.dataset.busy) return;
  submitter.textContent = submitter.dataset.busy;
  submitter.setAttribute("aria-busy", "true");
});

// One field finds everything: / goes to it, the arrows through what was found.
on("keydown", (event) => {
  const field = document.getElementById("find-all");
  if (!field || event.ctrlKey || event.metaKey || event.altKey) return;
  if (event.key === "/" && !event.target.closest("input, textarea, select, [data-strip], .onebar")) {
    event.preventDefault();
    return void field.focus();
  }
  if (event.key === "?" && !event.target.closest("input, textarea, select")) return void document.querySelector(".helpbutton")?.click();
  const finder = event.target.closest(".finder");
  if (!finder) return;
  if (event.key === "Escape") {
    field.value = "";
    document.getElementById("found").replaceChildren();
    return void field.blur();
  }
  const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
  const list = [field, ...all("a", finder)];
  if (!by || list.length < 2) return;
  event.preventDefault();
  list[(list.indexOf(document.activeElement) + by + list.length) % list.length].focus();
});

// A file is read as soon as it is chosen: the page shows what is in it.
on("change", (event) => {
  const { target } = event;
  if (target.matches("input[type=file][data-reads]") && target.files.length) target.form.requestSubmit(target.form.querySelector(target.dataset.reads));
});

const busy = (event) => event.target.closest("form, summary, a, .panel, .dropdown") || event.altKey && !event.key.startsWith("Arrow");
const undoKey = (event) => (event.ctrlKey || event.metaKey) && !event.altKey && { z: event.shiftKey ? "redo" : "undo", y: "redo" }[event.key.toLowerCase()];
function rove(list, at) {
  const next = list[Math.min(Math.max(at, 0), list.length - 1)];
  list.forEach((el) => { el.tabIndex = el === next ? 0 : -1; });
  next?.focus();
}
export { post, busy, undoKey, rove };
