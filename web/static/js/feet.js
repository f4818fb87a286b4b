// Feet under the strings: where each stroke of a bar was asked for, and where it usually came.
const rows = { fingers: 14, strum: 14, melody: 14, thumb: 34 };
const [width, height] = [300, 58];
const onTime = 30; // ms, as the ear has it

// feet draws one bar: places {at, off, by, found, of, other, beat} of a bar that lasts so many milliseconds.
function feet(places, { bar, beats, label }) {
  const svg = document.createElementNS("http://www.w3.org/2000/svg", "svg");
  const add = (name, attributes, text) => {
    const el = document.createElementNS("http://www.w3.org/2000/svg", name);
    Object.entries(attributes).forEach(([key, value]) => el.setAttribute(key, value));
    if (text) el.textContent = text;
    svg.append(el);
  };
  svg.setAttribute("viewBox", `0 0 ${width} ${height}`);
  svg.setAttribute("role", "img");
  svg.setAttribute("aria-label", label);
  const x = (ms) => 14 + (width - 28) * ms / bar;
  const used = new Set(places.map((place) => rows[place.by]));
  used.forEach((y) => add("line", { class: "tapline", x1: 6, x2: width - 6, y1: y, y2: y }));
  for (let n = 0; n < beats; n++) add("text", { class: "tapcount", x: x(n * bar / beats), y: height - 4 }, String(n + 1));
  for (const place of places) {
    const y = rows[place.by];
    add("line", { class: "taptick", x1: x(place.at), x2: x(place.at), y1: y - 8, y2: y + 8 });
    if (2 * place.found <= place.of) add("path", { class: "tapmissed", d: `M${x(place.at) - 5} ${y - 5}l10 10m0 -10l-10 10` });
    else add("circle", { class: Math.abs(place.off) > onTime ? "tapdot off" : "tapdot", cx: x(place.at + place.off), cy: y, r: 5 });
  }
  return svg;
}

// feetOf draws every bar of the figure of a take.
export function feetOf(heard, beats) {
  return [...new Set(heard.places.map((place) => place.bar))].map((n) => {
    const places = heard.places.filter((place) => place.bar === n);
    return feet(places, { bar: heard.bar, beats, label: `Bar ${n + 1} of the pattern: ${places.map(({ off }) => `${off > 0 ? "+" : ""}${off}`).join(", ")} milliseconds` });
  });
}
