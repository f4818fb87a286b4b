// The play bar: the same under every figure. What it plays, it lights where it stands.
import { all } from "./all.js";
import { Player, speaker, scoreAt, sentence } from "./player.js";
import { light, slotAt } from "./lit.js";
import { transport } from "./transport.js";
import "./listen.js";

const hands = ["thumb", "fingers", "strum", "melody", "chords"];

document.addEventListener("alpine:init", () => {
  Alpine.data("playbar", () => ({
    ...transport,
    loading: false, said: "", coming: "", count: "", loop: null, held: -1, taps: [], now: -1, lit: "", parts: null,
    // How it is played, as the bar is switched; what has no notes in this score is not offered.
    plays: { thumb: true, fingers: true, strum: true, melody: true, chords: false, click: true },
    absent: { thumb: false, fingers: false, strum: false, melody: false, chords: false, click: false },
    countin: true, clickway: "beat", up: "", every: "", grow: false, feel: "", earway: "",
    what: "", named: "", // what is played, in words: of the page, and of the button that was pressed
    init() {
      this.url = this.$root.dataset.play;
      this.what = this.$root.dataset.what;
      this.know();
      addEventListener("pagehide", () => this.stop());
      document.addEventListener("htmx:afterSettle", ({ target }) => target.closest?.("#line-read, [data-soon], #found, #help") || this.edited());
      ["pointerenter", "focusin"].forEach((name) => this.$root.addEventListener(name, () => this.warm(this.url), { once: true }));
    },
    // What stands on the page is played: a figure under the hand has its own address.
    get target() { return (this.url === this.$root.dataset.play && document.querySelector("[data-play-now]")?.dataset.playNow) || this.url; },
    get scope() {
      const button = all("[data-hear]").find((el) => el.dataset.hear === this.url);
      return button?.closest("[data-heard], .step, figure, article, tr, li") || document.querySelector(this.$root.dataset.lights) || null;
    },
    // The score is asked for before it is played, so that the bar can say how long and how fast it is.
    async know() {
      if (!this.target || this.score || this.playing) return;
      const before = this.target;
      const score = await this.fetched().catch(() => null); // it is said when play is pressed
      if (this.score || this.playing || this.parts) return;
      if (before !== this.target) return this.know(); // another stands on the page by now
      if (score) this.take(score);
      this.said = "";
    },
    get about() {
      const now = this.url === this.$root.dataset.play ? document.querySelector("[data-play-now]")?.dataset.about || this.$root.dataset.about : this.named;
      const bars = this.score?.bars.length;
      const loop = this.loop && `bars ${this.loop[0] + 1}–${this.loop[1] + 1}`;
      return [now, loop || (bars > 1 ? `${bars} bars` : "")].filter(Boolean).join(" · ");
    },
    asked(url) {
      const on = this.plays.chords ? "&chords=yes" : "";
      const feel = this.feel ? `&feel=${this.feel}` : "";
      return url + (on || feel ? (url.includes("?") ? "" : "?") + on + feel : "");
    },
    async warm(url) {
      if (!url || this.score || this.playing) return;
      const context = new OfflineAudioContext(1, 1, 44100);
      try {
        await new Player(context, await scoreAt(this.asked(this.target)), {}).prepare();
      } catch { /* it is said when play is pressed */ }
    },
    // Another step or pattern of the page is put into the bar.
    async hear(url, at, named) {
      this.named = named;
      if (url === document.querySelector("[data-play-now]")?.dataset.playNow) url = this.$root.dataset.play;
      const same = url === this.url && !this.parts;
      if (same && this.playing) return this.stop();
      this.stop();
      if (!same) [this.url, this.score, this.parts, this.loop] = [url, null, null, null];
      this.begins = Number(at) || 0;
      if (this.score && this.begins) this.setTempo(this.begins);
      await this.play();
    },
    begins: 0, // the tempo that is asked for, where it is another than the slow one
    async play() {
      if (!this.target || this.loading) return;
      this.loading = true;
      this.problem = "";
      try {
        const [{ context, out }, score] = await Promise.all([speaker(), this.score || this.fetched()]);
        this.out = out;
        if (score !== this.score) this.take(score);
        await this.run(context, this.options());
      } catch (fault) {
        this.stop();
        this.problem = sentence(fault);
      }
      this.loading = false;
    },
    // Somebody is listened to while it plays: counted in, and silent where it does not play along.
    ear: null,
    get heard() { return Boolean(this.ear?.taking); },
    async playFor(ear, way) {
      this.stop();
      const { context, out } = await speaker();
      this.out = out;
      await ear.record(context);
      const own = this.options();
      const along = way === "along" || way === "both";
      await this.run(context, { ...own, countIn: way !== "both", silent: along ? own.silent : new Set(hands), click: way === "click" || way === "along" ? "beat" : "", up: 0, grow: false });
      ear.begun(this.player.zero, context, out);
    },
    fetched() { return scoreAt(this.asked(this.target)); },
    chosen: false, // the tempo, by the hand
    setTempo(to) {
      if (this.heard) return; // a take has one tempo
      this.chosen = true;
      transport.setTempo.call(this, to);
    },
    take(score, tempo) {
      this.chosen = false;
      this.score = score;
      this.silence = score.notes.length ? "" : "There’s no pattern yet, so you’ll only hear the click. Choose one.";
      this.tempo = tempo || this.begins || score.start || score.slow;
      const by = new Set(score.notes.map((note) => note.by));
      hands.slice(0, 4).forEach((name) => { this.absent[name] = by.size > 0 && !by.has(name); });
      this.rule();
      this.said = this.silence;
    },
    silence: "",
    options() {
      const whole = (typed) => Math.max(0, Math.round(Number(typed)) || 0);
      return {
        out: this.out, tempo: this.tempo, silent: new Set(hands.filter((by) => !this.plays[by])), countIn: this.countin,
        click: this.plays.click ? this.clickway : "",
        up: whole(this.up), every: whole(this.every), most: 300, grow: this.grow,
        changed: (tempo) => { this.tempo = tempo; },
        stage: (bars, click) => { this.said = bars ? `${bars === 1 ? "One bar" : `${bars} bars`}, twice.` : click ? "All of it." : "All of it, without the click."; },
      };
    },

    // The playhead, the bar, the slot that sounds, the count, the chord ahead.
    at(tick) {
      const { bars, beat, ticks } = this.score;
      if (tick < this.player.from) return this.say(String(Math.ceil(this.beatsBefore(tick)))); // counted in
      const at = bars.findLastIndex((bar) => bar.from <= tick + 1e-6);
      const bar = bars[at];
      if (!bar) return;
      this.$root.querySelector(".playhead").style.left = `${100 * tick / ticks}%`;
      if (at !== this.now) this.show(at);
      this.say(String(Math.floor((tick - bar.from) / beat + 1e-6) + 1));
      const key = `${at} ${slotAt(this.score, bar, tick)}`;
      if (key === this.lit) return;
      this.lit = key;
      light(bar.scope || this.scope, this.score, bar, tick);
      const next = bar.ch?.find((change) => change.t > tick) || bars[at + 1]?.ch?.[0];
      const sounds = bar.ch?.findLast((change) => change.t <= tick + 1e-6);
      this.coming = next && next.c !== sounds?.c && next.t - tick <= beat + 1e-6 ? `next ${next.c}` : "";
    },
    beatsBefore(tick) {
      const bar = this.score.bars.findLast((b) => b.from <= this.player.from) || { beats: 4 };
      return bar.beats - (this.player.from - tick) / this.score.beat + 0.001;
    },
    say(count) { if (count !== this.count) this.count = count; },
    show(at) {
      const { bars } = this.score;
      const from = bars[at].scope || this.scope;
      const before = bars[this.now]?.id && from?.querySelector(`#bar-${bars[this.now].id}`);
      this.now = at;
      all(".ruler span", this.$root).forEach((bar, i) => bar.classList.toggle("on", i === at));
      if (bars[at].part) this.said = bars[at].part;
      const el = bars[at].id && from?.querySelector(`#bar-${bars[at].id}`);
      const seen = (bar) => { const box = bar.getBoundingClientRect(); return box.bottom > 0 && box.top < innerHeight; };
      if (el && (!before || seen(before))) el.scrollIntoView({ block: "nearest", behavior: matchMedia("(prefers-reduced-motion: reduce)").matches ? "auto" : "smooth" });
    },

    // What was edited goes on playing as it is now.
    async edited() {
      if (this.parts) return;
      if (!this.playing) {
        [this.score, this.loop] = [null, null];
        return this.know();
      }
      await this.again();
    },
    async again() {
      const before = this.target;
      try {
        const score = await this.fetched();
        if (!this.playing || before !== this.target) return;
        await this.player.swap(score);
        this.score = score;
        this.rule(true);
        this.ends();
      } catch (fault) {
        this.problem = sentence(fault);
      }
    },

    // Bars go round between the ends of a loop, from and to, counted from 0.
    ends() {
      const { bars, ticks } = this.score;
      if (this.loop && this.loop[1] >= bars.length) this.loop = null;
      const [from, to] = this.loop || [0, bars.length - 1];
      this.player?.between(bars[from]?.from || 0, this.loop && bars[to + 1] ? bars[to + 1].from : ticks);
      all(".ruler span", this.$root).forEach((bar, i) => bar.classList.toggle("in", Boolean(this.loop) && from <= i && i <= to));
    },
    setLoop(from, to) {
      if (!this.score) return;
      this.loop = from === null ? null : [Math.min(from, to), Math.max(from, to)];
      this.ends();
      this.said = this.loop ? (this.loop[0] === this.loop[1] ? `Looping bar ${this.loop[0] + 1}.` : `Looping bars ${this.loop[0] + 1} to ${this.loop[1] + 1}.`) : "";
    },
    barAt(event) { return all(".ruler span", this.$root).indexOf(event.target.closest(".ruler span")); },
    grab(event) { this.held = this.barAt(event); },
    drop(event) {
      const to = this.barAt(event);
      if (this.held >= 0 && to >= 0) this.setLoop(this.held === to && this.loop ? null : this.held, to);
      this.held = -1;
    },
    go(by) { // to another bar
      if (!this.score?.bars.length) return;
      const to = Math.min(Math.max(Math.max(0, this.now) + by, 0), this.score.bars.length - 1);
      this.player?.jump(this.score.bars[to].from);
      this.show(to);
    },
    tap() {
      const now = performance.now();
      this.taps = [...this.taps.filter((at) => now - at < 6000 && now - (this.taps.at(-1) || 0) < 2500), now].slice(-5);
      if (this.taps.length > 1) this.setTempo(60000 * (this.taps.length - 1) / (now - this.taps[0]));
    },
    half() { this.setTempo(this.tempo / 2); },
    twice() { this.setTempo(this.tempo * 2); },
    rule(keep) {
      if (!keep) [this.now, this.loop, this.said] = [-1, null, ""];
      this.lit = "";
      const ruler = this.$root.querySelector(".ruler");
      all("span", ruler).forEach((bar) => bar.remove());
      ruler.prepend(...this.score.bars.map((bar) => {
        const el = document.createElement("span");
        el.textContent = bar.chords;
        return el;
      }));
      this.name();
    },
    // name shows the chords of the bars where all have room: half of Am is another chord.
    name() {
      const ruler = this.$root.querySelector(".ruler");
      ruler.classList.remove("many");
      ruler.classList.toggle("many", all("span", ruler).some((bar) => bar.scrollWidth > bar.clientWidth));
    },
    stop() {
      if (this.heard) return void this.ear.finish(); // which stops when the take is in
      this.halt();
      [this.now, this.lit, this.count, this.coming] = [-1, "", "", ""];
      all(".ruler .on", this.$root).forEach((bar) => bar.classList.remove("on"));
    },
    typed(event) { this.setTempo(event.target.value); event.target.value = this.tempo; },
    async switched(event) {
      if (this.heard) return;
      this.player?.set(this.options());
      if (!["chords", "feel"].includes(event?.target.name)) return;
      if (this.playing) await this.again();
      else [this.score, this.parts] = [null, null];
    },

    // The difference: figures one after another, a bar or two each, at one tempo, as long as
    // a key or a button is held.
    async differ(list) {
      if (this.parts || this.loading) return;
      this.stop();
      try {
        const scores = await Promise.all(list.map(({ url }) => scoreAt(url)));
        const whole = { ...scores[0], ticks: 0, bars: [], notes: [], figures: [] };
        scores.forEach((score, i) => {
          const first = score.bars.findIndex((bar) => score.notes.some((note) => note.t >= bar.from && note.t < bar.from + bar.beats * score.beat));
          const from = score.bars[Math.max(0, first)]?.from || 0;
          const bars = score.bars.filter((bar) => bar.from >= from).slice(0, 2);
          const to = bars.reduce((end, bar) => bar.from + bar.beats * score.beat, from);
          const by = whole.ticks - from;
          whole.bars.push(...bars.map((bar) => ({ ...bar, from: bar.from + by, ch: bar.ch?.map((change) => ({ ...change, t: change.t + by })), f: bar.f < 0 ? -1 : bar.f + whole.figures.length, part: list[i].name, scope: list[i].scope })));
          whole.notes.push(...score.notes.filter((note) => note.t >= from && note.t < to).map((note) => ({ ...note, t: note.t + by })));
          whole.figures.push(...score.figures);
          whole.ticks += to - from;
        });
        this.parts = list;
        this.take(whole, (this.chosen && this.tempo) || Math.min(...scores.map((score) => score.medium)));
        const wanted = this.tempo;
        await this.play();
        if (!this.parts) this.stop(); // let go in the meantime
        this.setTempo(wanted);
      } catch (fault) {
        this.problem = sentence(fault);
        this.same();
      }
    },
    same() {
      if (!this.parts) return;
      this.stop();
      [this.score, this.parts, this.said] = [null, null, ""];
      all(".ruler span", this.$root).forEach((bar) => bar.remove());
    },

    get shown() { return this.tempo || ""; },
    get unready() { return !this.score; },
    get silentnow() { return !this.playing; },
    get marked() { return Boolean(this.score) && !this.parts; },
    get label() { return this.playing ? "Stop" : "Play"; },
    get unit() { return !this.score || this.score.unit === "quarter" ? "BPM" : `BPM, ${this.score.unit}s`; },
    get marks() { return this.score && !this.parts ? [this.score.slow, this.score.medium, this.score.goal] : ["", "", ""]; },
    get slowAt() { return this.marks[0]; },
    get mediumAt() { return this.marks[1]; },
    get goalAt() { return this.marks[2]; },
    get written() { return this.score?.feel || ""; },
    // Files of what the bar plays now, as it is switched.
    get along() {
      if (!this.score || this.parts) return null;
      const parts = hands.slice(0, 4).filter((by) => !this.plays[by]).map((by) => `&${by}=no`).join("");
      return `${this.file("wav")}&tempo=${this.tempo}&click=${this.plays.click ? "yes" : "no"}&countin=${this.countin ? "yes" : "no"}${parts}`;
    },
    get alongs() { return this.score && !this.parts ? this.file("zip") : null; },
    file(as) {
      const url = this.asked(this.target);
      return `${url}${url.includes("?") ? "&" : "?"}as=${as}`;
    },
  }));
});

const barOf = () => {
  const bar = document.querySelector("[data-play]");
  return bar && window.Alpine ? Alpine.$data(bar) : null;
};
document.addEventListener("click", (event) => {
  const button = event.target.closest("[data-hear]");
  if (button) barOf()?.hear(button.dataset.hear, button.dataset.at, button.dataset.name || (button.getAttribute("aria-label") || "").replace(/^Play /, ""));
});
document.addEventListener("pointerover", (event) => {
  const button = event.target.closest("[data-hear]");
  if (button && !button.dataset.warm) {
    button.dataset.warm = "yes";
    scoreAt(button.dataset.hear).catch(() => delete button.dataset.warm);
  }
});

// Held down, h or the button plays what is below, this, and the target; on a neighbour, the
// figure and the neighbour.
function difference(from) {
  const open = from.closest(".openstep");
  const step = open ? document.getElementById(`step-${open.dataset.opened}`) : from.closest(".step");
  if (step) {
    const steps = all(".step"); // the target stands first
    const at = steps.indexOf(step);
    const named = [[steps[at + 1], "The step below"], [step, "This step"], [at > 0 ? steps[0] : null, "The target"]].filter(([el]) => el);
    return named.map(([el, name]) => ({ url: el.dataset.score, name: `${name}.`, scope: el }));
  }
  const near = from.closest("[data-beside]");
  const bar = barOf();
  if (!near || !bar) return null;
  return [{ url: bar.target, name: "The pattern.", scope: document.querySelector(bar.$root.dataset.lights) }, { url: near.dataset.beside, name: "Its neighbour.", scope: near }];
}
const hold = (event) => {
  const button = event.target.closest("[data-differ]");
  const list = button && difference(button);
  if (!list) return;
  event.preventDefault();
  button.focus();
  barOf()?.differ(list);
};
document.addEventListener("pointerdown", hold);
["pointerup", "pointercancel"].forEach((name) => document.addEventListener(name, () => barOf()?.same()));
addEventListener("blur", () => barOf()?.same());

// Space plays wherever it has no other meaning; [ and ] set the ends of a loop where the
// playhead is, Escape opens it, t taps the tempo, - and + halve and double it, digits are
// slow, medium and goal. In the bar the arrows go to other bars and tempos.
const keys = {
  " ": (bar) => bar.toggle(), t: (bar) => bar.tap(), "-": (bar) => bar.half(), "+": (bar) => bar.twice(), Escape: (bar) => bar.setLoop(null),
  1: (bar) => bar.slow(), 2: (bar) => bar.medium(), 3: (bar) => bar.goal(),
  "[": (bar) => bar.setLoop(Math.max(0, bar.now), Math.max(bar.loop?.[1] ?? bar.score?.bars.length - 1, bar.now)),
  "]": (bar) => bar.setLoop(Math.min(bar.loop?.[0] ?? 0, Math.max(0, bar.now)), Math.max(0, bar.now)),
};
const inBar = { ArrowLeft: (bar) => bar.go(-1), ArrowRight: (bar) => bar.go(1), ArrowUp: (bar) => bar.setTempo(bar.tempo + 2), ArrowDown: (bar) => bar.setTempo(bar.tempo - 2) };
document.addEventListener("keydown", (event) => {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const bar = barOf();
  if (!bar) return;
  if (event.key === "h" && !event.target.closest("input, textarea, select, [data-strip]")) {
    const list = difference(event.target);
    if (!list) return;
    event.preventDefault();
    return void (event.repeat || bar.differ(list));
  }
  const here = event.target.closest(".playbar");
  const own = here && !event.target.closest("input, select, a") ? "" : "button, summary, a, [tabindex]:not(#main, .onebar, .step), ";
  const does = keys[event.key] || (here && inBar[event.key]);
  if (!does || event.target.closest(`${own}input, textarea, select`)) return;
  if (/^[\-+]$/.test(event.key) && document.querySelector("[data-live]")) return; // the lesson's
  if (/^[123\-+]$/.test(event.key) && event.target.closest(".onebar, .step")) return; // they are the bar's or the step's
  if (event.key === " " && event.target.closest("button, summary")) return; // it presses the button
  event.preventDefault();
  does(bar);
});
document.addEventListener("keyup", (event) => { if (event.key === "h") barOf()?.same(); });
