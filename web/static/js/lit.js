// What sounds is lit where it stands on the page: the slot, the finger in it and its count, on
// every strip and lane of the figure that plays.
import { all } from "./all.js";

const parts = ".mark, .letter, .strum, .way, .laneletter, .count, .knock";
const found = new WeakMap(); // columns of a picture

function middle(el) {
  const number = (name) => Number(el.getAttribute(name));
  if (el.hasAttribute("points")) {
    const xs = el.getAttribute("points").split(" ").filter((_, i) => i % 2 === 0).map(Number);
    return (Math.min(...xs) + Math.max(...xs)) / 2;
  }
  return el.hasAttribute("cx") ? number("cx") : number("x") + number("width") / 2;
}

// A picture says where its slots are: left edge, width of a slot, slots a bar, gap between bars.
function columns(svg) {
  if (found.has(svg)) return found.get(svg);
  const [left, width, grid, gap] = svg.dataset.slots.split(" ").map(Number);
  const list = [];
  all(parts, svg).forEach((el) => {
    const x = middle(el) - left;
    const bar = Math.floor((x + gap / 2) / (grid * width + gap));
    const at = bar * grid + Math.floor((x - bar * (grid * width + gap)) / width);
    (list[at] ||= []).push(el);
  });
  const set = { list, grid };
  found.set(svg, set);
  return set;
}

let lit = [];
function dark() {
  lit.forEach((el) => el.classList.remove("lit"));
  lit = [];
}

// slotAt is the slot of a bar's figure that has begun at a tick.
function slotAt(score, bar, tick) {
  const figure = score.figures[bar.f];
  if (!figure) return -1;
  const since = tick - bar.from + (bar.late || 0);
  const again = Math.floor(since / figure.bar);
  return again * figure.slots.length + figure.slots.findLastIndex((start) => start <= since - again * figure.bar + 1e-6);
}

// light lights a slot of a bar within a part of the page, and nothing else.
function light(scope, score, bar, tick) {
  dark();
  shine(scope, score, bar, tick);
}

function shine(scope, score, bar, tick) {
  const slot = slotAt(score, bar, tick);
  if (!scope || slot < 0) return;
  const onSong = bar.id && scope.querySelector(`#bar-${bar.id}`);
  const pictures = all("svg[data-slots]", onSong || scope);
  const chord = bar.ch?.findLast((change) => change.t <= tick + 1e-6)?.c;
  const other = (svg) => { const on = svg.closest("[data-chord]"); return on && on.dataset.chord !== chord; };
  pictures.filter((svg) => !other(svg)).forEach((svg) => {
    const { list, grid } = columns(svg);
    const at = onSong || svg.closest("[data-onebar]") ? slot : (bar.p || 0) * grid + slot % grid;
    (list[at] || []).forEach((el) => { el.classList.add("lit"); lit.push(el); });
  });
  if (onSong) { onSong.classList.add("lit"); lit.push(onSong); }
}
export { light, shine, dark, slotAt };
