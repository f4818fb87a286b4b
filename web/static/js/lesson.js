// The band of a lesson is dragged, or moved with the arrow keys; in the room keys go on,
// and a clock runs.
import { post } from "./app.js";

const on = (name, handler) => document.addEventListener(name, handler);

// moveBorder asks for a border to be moved, on the lesson as it is when its turn comes.
function moveBorder(border, by) {
  const lesson = border.closest("[data-version]");
  const at = border.dataset.border;
  if (!lesson || !by) return;
  post(lesson, "/lesson/minutes", { border: at, by, class: lesson.dataset.class }).then(() => document.querySelector(`[data-border="${at}"]`)?.focus());
}
on("keydown", (event) => {
  const border = event.target.closest("[data-border]");
  const by = { ArrowLeft: -1, ArrowRight: 1, PageDown: -5, PageUp: 5 }[event.key];
  if (!border || !by) return;
  event.preventDefault();
  moveBorder(border, by);
});

let dragged = null;
on("pointerdown", (event) => {
  const border = event.target.closest("[data-border]");
  if (!border) return;
  const band = border.closest("[data-band]");
  dragged = { border, from: event.clientX, minute: band.getBoundingClientRect().width / band.dataset.band };
  border.setPointerCapture(event.pointerId);
  border.classList.add("dragged");
});
on("pointermove", (event) => {
  if (!dragged) return;
  const by = Math.round((event.clientX - dragged.from) / dragged.minute);
  dragged.border.style.transform = `translateX(${by * dragged.minute}px)`;
  dragged.border.title = `${by > 0 ? "+" : ""}${by} min`;
});
const drop = (event) => {
  if (!dragged) return;
  const { border, from, minute } = dragged;
  dragged = null;
  border.classList.remove("dragged");
  border.style.transform = "";
  if (event.type === "pointerup") moveBorder(border, Math.round((event.clientX - from) / minute));
};
on("pointerup", drop);
on("pointercancel", drop);

// A page turner sends these, and a hand that has no time to aim.
const keys = { ArrowRight: "next", PageDown: "next", ArrowLeft: "back", PageUp: "back", "+": "extend", x: "cut" };
on("keydown", (event) => {
  const live = document.querySelector("[data-live]");
  if (!live || event.target.closest("input, textarea, select") || event.ctrlKey || event.metaKey || event.altKey || !keys[event.key]) return;
  const button = live.querySelector(`button[value="${keys[event.key]}"]:not(:disabled)`);
  if (!button) return;
  event.preventDefault();
  if (!event.repeat) button.click();
});

// The clock runs from what the server said was left: no two clocks need agree.
let said = null;
let at = 0;
function tick() {
  const clock = document.querySelector("[data-left]");
  if (!clock) return;
  const version = clock.closest("[data-version]").dataset.version;
  const now = `${version} ${clock.dataset.left}`;
  if (said !== now) [said, at] = [now, performance.now()];
  const left = Math.round(clock.dataset.left - (performance.now() - at) / 1000);
  const seconds = Math.abs(left);
  clock.textContent = `${left < 0 ? "+" : ""}${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;
  clock.classList.toggle("over", left < 0);
}
on("htmx:afterSettle", tick);
setInterval(tick, 500);
tick();
