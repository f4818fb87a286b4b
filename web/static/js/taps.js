// The tap test: a figure on two halves of the screen, four bars with the click, then two without. What is
// judged is judged by the program's own Go, here on the phone.
import { load, clicks, speaker, sentence } from "./player.js";

const withClick = 4;
const without = 2;
const latencyKey = "arplin-latency";
const checkTempo = 90;
const checkBeats = 8;

let judging = null; // the judge, once it is loaded
async function judge() {
  judging ||= (async () => {
    await new Promise((resolve, reject) => {
      const script = document.createElement("script");
      script.src = "/static/judge/wasm_exec.js";
      script.onload = resolve;
      script.onerror = reject;
      document.head.append(script);
    });
    const go = new Go();
    const answer = await fetch("/static/judge/judge.wasm");
    if (!answer.ok) throw new Error(String(answer.status));
    const { instance } = await WebAssembly.instantiate(await answer.arrayBuffer(), go.importObject);
    go.run(instance);
  })();
  judging.catch(() => { judging = null; });
  return judging;
}

const kept = () => { try { return Number(localStorage.getItem(latencyKey)) || 0; } catch { return 0; } };

export const tapTest = {
  tapName: "", tapFigure: "", tapKey: "", tapTempo: 0, tapping: "", tapSays: "", tapCount: "", latency: 0, slower: 0, tapProblem: "", taps: [],
  async openTaps(card) {
    const { figure, strums, tempo, card: key, name } = card.dataset;
    Object.assign(this, { tapFigure: figure, tapKey: key, tapName: name, tapTempo: Number(tempo), tapSays: "", tapCount: "", slower: 0, tapProblem: "", latency: kept() });
    this.$root.querySelector(".dots").replaceChildren();
    this.halves = strums === "yes" ? ["down", "up"] : ["bass", "fingers"];
    try {
      await judge();
    } catch {
      this.tapProblem = "The tap test couldn’t load. Open it once with a net; after that it works without.";
    }
  },
  halves: ["bass", "fingers"],
  get leftHalf() { return this.halves[0]; },
  get rightHalf() { return this.halves[1]; },
  get tapIntro() {
    if (this.tapping === "check") return "Tap along with the clicks, on either side.";
    if (this.tapping) return this.tapCount;
    return `Four bars at ${this.tapTempo} with the click, then two without. ${this.halves[0] === "bass" ? "Left for the bass, right for the fingers." : "Left for downs, right for ups."}`;
  },
  get latencyText() { return this.latency ? `This phone sounds ${Math.abs(this.latency)} ms ${this.latency > 0 ? "late" : "early"}. That’s taken off.` : ""; },
  get slowerText() { return `Slower, ${this.slower}`; },
  get idle() { return !this.tapping; },
  get startText() { return this.tapSays ? "Once more" : "Start"; },
  async startTaps() { await this.take("figure"); },
  async slowerTaps() {
    this.tapTempo = this.slower;
    await this.take("figure");
  },
  async checkLatency() { await this.take("check"); },

  // take clicks and listens to taps; times are milliseconds from the first beat.
  async take(what) {
    this.stopTaps();
    this.tapProblem = "";
    this.tapSays = "";
    this.$root.querySelector(".dots").replaceChildren();
    try {
      await judge();
      const [{ context, out }, ...sounds] = await Promise.all([speaker(), ...clicks.map(load)]);
      const bar = what === "check" ? null : arplinDue(this.tapFigure, this.tapTempo);
      if (bar?.problem) throw new Error(bar.problem);
      const beats = bar ? bar.beats : checkBeats;
      const beat = bar ? bar.bar / beats : 60000 / checkTempo;
      const lead = bar ? beats : 4; // counted in
      const sounding = bar ? lead + withClick * beats : lead + checkBeats;
      const bars = bar ? withClick + without : 1;
      const start = context.currentTime + 0.25;
      this.sources = Array.from({ length: sounding }, (_, i) => {
        const source = new AudioBufferSourceNode(context, { buffer: sounds[i % beats === 0 ? 1 : 0] });
        source.connect(out);
        source.start(start + i * beat / 1000);
        return source;
      });
      // When the first beat is heard, by the clock of touches.
      const { contextTime, performanceTime } = context.getOutputTimestamp();
      const now = performanceTime ? performanceTime + (start - contextTime) * 1000 : performance.now() + (start - context.currentTime + (context.outputLatency || 0)) * 1000;
      this.zero = now + lead * beat;
      this.taps = [];
      this.tapping = what;
      this.$root.dataset.zero = this.zero;
      const count = () => {
        const at = performance.now() - this.zero;
        const n = Math.floor(at / (beat * beats));
        this.tapCount = at < 0 ? String(Math.max(1, lead + Math.floor(at / beat) + 1)) : n < withClick ? `bar ${n + 1} of ${bars}` : "without the click";
      };
      count();
      this.counting = setInterval(count, 60);
      this.ending = setTimeout(() => this.judgeTaps(what, beat), this.zero - performance.now() + (bar ? bars * bar.bar : checkBeats * beat) + 400);
    } catch (fault) {
      this.stopTaps();
      this.tapProblem = sentence(fault);
    }
  },
  tap(event) {
    if (!this.tapping) return;
    event.preventDefault();
    const at = event.timeStamp || performance.now();
    const half = event.currentTarget;
    this.taps.push(at - this.zero - (this.tapping === "check" ? 0 : this.latency), half.dataset.hand === "fingers" ? 1 : 0);
    half.classList.add("hit");
    setTimeout(() => half.classList.remove("hit"), 90);
  },
  // A key does as well: f is the left half, j the right one.
  tapKeys(event) {
    const half = { f: "thumb", j: "fingers" }[event.key];
    if (!half || !this.tapping || event.repeat) return;
    this.taps.push(event.timeStamp - this.zero - this.latency, half === "fingers" ? 1 : 0);
  },
  judgeTaps(what, beat) {
    const { taps } = this;
    this.stopTaps();
    const own = [];
    for (let i = 0; i < taps.length; i += 2) if (taps[i] > -beat / 2) own.push(taps[i], taps[i + 1]); // what came while it was counted in is nothing
    if (what === "check") {
      if (own.length < checkBeats) return void (this.tapProblem = "That was too few taps to measure. Try again, one tap with each click.");
      this.latency = Math.round(arplinLatency(beat, own));
      try { localStorage.setItem(latencyKey, this.latency); } catch { /* it counts while the page is open */ }
      return void (this.tapSays = "Measured.");
    }
    const heard = arplinJudge(this.tapFigure, this.tapTempo, own);
    if (heard.problem) return void (this.tapProblem = own.length ? heard.problem : "There were no taps. Start again, and tap both halves with the pattern.");
    this.tapSays = heard.sentence;
    this.slower = heard.slower;
    this.even[this.tapKey] = heard.even;
    this.$root.dataset.judged = JSON.stringify({ even: heard.even, habits: heard.habits });
    this.draw(heard);
  },
  // draw puts the places of one bar on a line, each where it usually came.
  draw(heard) {
    const svg = document.createElementNS("http://www.w3.org/2000/svg", "svg");
    const add = (name, attributes) => {
      const el = document.createElementNS("http://www.w3.org/2000/svg", name);
      Object.entries(attributes).forEach(([key, value]) => el.setAttribute(key, value));
      svg.append(el);
    };
    const [width, height] = [300, 44];
    svg.setAttribute("viewBox", `0 0 ${width} ${height}`);
    svg.setAttribute("role", "img");
    svg.setAttribute("aria-label", this.tapSays);
    const x = (slot, off) => 14 + (width - 28) * (slot / heard.grid + off / heard.bar);
    const rows = { thumb: 30, fingers: 14 };
    Object.values(rows).forEach((y) => add("line", { class: "tapline", x1: 6, x2: width - 6, y1: y, y2: y }));
    const places = new Map();
    heard.dots.filter((dot) => dot.state !== "extra" && dot.state !== "missed").forEach((dot) => {
      const key = `${dot.hand} ${dot.slot}`;
      places.set(key, [...(places.get(key) || []), dot.off]);
    });
    for (const [key, offs] of places) {
      const [hand, slot] = key.split(" ");
      const off = offs.sort((a, b) => a - b)[Math.floor(offs.length / 2)];
      add("line", { class: "taptick", x1: x(Number(slot), 0), x2: x(Number(slot), 0), y1: rows[hand] - 7, y2: rows[hand] + 7 });
      add("circle", { class: Math.abs(off) > 30 ? "tapdot off" : "tapdot", cx: x(Number(slot), off), cy: rows[hand], r: 5 });
    }
    this.$root.querySelector(".dots").replaceChildren(svg);
  },
  stopTaps() {
    clearInterval(this.counting);
    clearTimeout(this.ending);
    (this.sources || []).forEach((source) => { try { source.stop(); } catch { /* it had ended */ } });
    this.sources = [];
    this.tapping = "";
  },
};
