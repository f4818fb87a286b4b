// The room: every step in use under one count. This bar and the next stand side by side; the
// eye goes from one to the other and finds what comes after it already there.
import { all } from "./all.js";
import { speaker, scoreAt, sentence } from "./player.js";
import { shine, dark, slotAt } from "./lit.js";
import { transport } from "./transport.js";
import { roomEar } from "./together-ear.js";

const still = matchMedia("(prefers-reduced-motion: reduce)");

document.addEventListener("alpine:init", () => {
  Alpine.data("together", () => ({
    ...transport, ...roomEar,
    section: "", said: "", now: -1, key: "",
    solo: new Set(), mutes: new Set(), click_on: true, named: false, rounding: false, lock: null,
    async init() {
      this.named = sessionStorage.getItem("names on the lanes") === "yes";
      this.$root.classList.toggle("named", this.named);
      document.addEventListener("keydown", (event) => this.press(event));
      document.addEventListener("visibilitychange", () => this.awake());
      addEventListener("pagehide", () => { this.unheard(); this.stop(); });
      this.awake();
      this.letters();
      try {
        await this.load();
        this.tempo = this.score.slow;
        this.show(0);
      } catch (fault) { this.problem = sentence(fault); }
    },
    // The screen stays on while the class looks at it.
    async awake() {
      if (document.visibilityState !== "visible" || !navigator.wakeLock) return;
      this.lock = await navigator.wakeLock.request("screen").catch(() => null);
    },
    lanes() { return all("[data-lane]", this.$root); },
    // One score of all lanes; each instrument of a lane is a voice of its own.
    async load() {
      const lanes = this.lanes();
      const voices = (await Promise.all(lanes.map((lane, at) => Promise.all(lane.dataset.scores.split(" ").map(async (url) => ({ at, score: await scoreAt(url) })))))).flat();
      const first = (voices.find((voice) => !voice.score.capo) || voices[0]).score; // its chords are those that sound, where it has no capo
      this.voices = voices;
      this.score = {
        ...first, lanes: voices.map((voice) => voice.score.strings),
        notes: voices.flatMap((voice, i) => voice.score.notes.map((note) => ({ ...note, lane: i }))).sort((a, b) => a.t - b.t),
      };
    },
    // Lanes that are the same part have a letter each.
    letters() {
      const parts = all("[data-part]", this.$root);
      const seen = {};
      parts.forEach((part) => {
        const name = part.dataset.part;
        const many = parts.filter((other) => other.dataset.part === name).length > 1;
        seen[name] = (seen[name] || 0) + 1;
        part.textContent = many ? `${name} ${String.fromCharCode(64 + seen[name])}` : name;
      });
    },
    off(at) { return this.solo.size ? !this.solo.has(at) : this.mutes.has(at); }, // alone goes before mute
    muted() {
      return new Set(this.voices.flatMap((voice, i) => (this.off(voice.at) ? [i] : [])));
    },
    switches() {
      this.lanes().forEach((lane, at) => {
        lane.querySelector("[data-do=mute]").setAttribute("aria-pressed", String(this.mutes.has(at)));
        lane.querySelector("[data-do=solo]").setAttribute("aria-pressed", String(this.solo.has(at)));
        lane.classList.toggle("silent", this.off(at));
      });
      this.sounding({ muted: this.muted() });
    },
    // sounding changes what sounds; while the room is listened to, nothing does, and it is for the next time.
    sounding(options) { if (!this.taking) this.player?.set(options); },
    flip(set, at) {
      if (!this.lanes()[at]) return;
      if (!set.delete(at)) set.add(at);
      this.switches();
    },

    async play() {
      [this.problem, this.verdict] = ["", ""];
      try {
        const { context, out } = await speaker();
        if (!this.score) await this.load();
        // Many lanes are as loud together as one.
        const level = new GainNode(context, { gain: 1 / Math.sqrt(Math.max(1, this.voices.length)) });
        level.connect(out);
        this.level = level;
        this.awake();
        const options = { out: level, tempo: this.tempo, click: this.click_on ? "beat" : "", countIn: true, muted: this.muted() };
        await this.run(context, options, this.score.bars[Math.max(0, this.now)].from);
      } catch (fault) {
        this.stop();
        this.problem = sentence(fault);
      }
    },
    stop() {
      if (this.taking) return void this.judge(); // which stops when the take is in
      this.halt();
      this.level?.disconnect();
      this.said = "";
    },
    at(tick) {
      const { bars, beat } = this.score;
      const at = Math.max(0, bars.findLastIndex((bar) => bar.from <= tick + 1e-6));
      if (at !== this.now) this.show(at);
      const bar = bars[at];
      const before = tick < this.player.from || tick < bar.from;
      this.said = before ? String(Math.max(1, bar.beats - Math.ceil((bar.from - tick) / beat) + 1)) : "";
      if (before) return;
      this.line(at, (tick - bar.from) / (bar.beats * beat));
      this.light(at, tick);
    },
    light(at, tick) {
      const shown = this.voices.map((voice, i) => ({ lane: voice.at, score: voice.score, first: this.voices.findIndex((other) => other.at === voice.at) === i })).filter((voice) => voice.first);
      const key = `${at} ${shown.map(({ score }) => slotAt(score, score.bars[at], tick)).join(" ")}`;
      if (key === this.key) return;
      this.key = key;
      dark();
      const lanes = this.lanes();
      shown.forEach(({ lane, score }) => shine(all("[data-cell]", lanes[lane])[at % 2], score, score.bars[at], tick));
      const finest = shown.reduce((most, voice) => ((voice.score.figures[0]?.slots.length || 0) > (most.score.figures[0]?.slots.length || 0) ? voice : most), shown[0]);
      shine(all("[data-count]", this.$root)[at % 2], finest.score, finest.score.bars[at], tick);
    },
    // The line stands where strokes of its moment stand; without motion only the slots light.
    line(at, part) {
      const line = this.$root.querySelector(".roomline");
      const cell = all("[data-lane] [data-cell]", this.$root)[at % 2];
      if (still.matches || !cell) return void (line.style.opacity = 0);
      line.style.opacity = 1;
      const pad = cell.clientWidth * 30 / 640;
      line.style.transform = `translateX(${cell.offsetLeft + pad + part * (cell.clientWidth - pad)}px)`;
    },
    // This bar and the next: chords, words, and what every lane plays in them.
    show(at) {
      this.now = at;
      this.key = "";
      const { bars } = this.score;
      this.section = bars.slice(0, at + 1).findLast((bar) => bar.sec)?.sec || "";
      [at, at + 1].forEach((k) => {
        const bar = bars[k] || (this.player && k >= bars.length ? bars[0] : null);
        const place = all("[data-ahead]", this.$root)[k % 2];
        place.classList.toggle("on", k === at);
        place.querySelector(".bigchords").textContent = bar?.chords || "";
        place.querySelector(".capochords").textContent = bar ? this.capos(k % bars.length) : "";
        place.querySelector(".bigwords").textContent = bar?.words || "";
        all("[data-count]", this.$root)[k % 2].classList.toggle("on", k === at);
        this.lanes().forEach((lane, i) => this.fill(lane, i, k, at));
      });
    },
    // Who has a capo reads other names: they stand small below the big ones.
    capos(k) {
      const others = this.voices.filter(({ score }) => (score.capo || 0) !== (this.score.capo || 0) && score.bars[k]);
      return [...new Set(others.map(({ score }) => `${score.capo ? `capo ${score.capo}` : "no capo"}: ${score.bars[k].chords}`))].join(" · ");
    },
    fill(lane, i, k, at) {
      const cell = all("[data-cell]", lane)[k % 2];
      const { score } = this.voices.find((voice) => voice.at === i);
      const bar = score.bars[k % score.bars.length];
      const pictures = lane.querySelector("template").content.children;
      cell.classList.toggle("on", k === at);
      const end = bar.from + bar.beats * score.beat;
      const rests = !score.notes.some((note) => note.t >= bar.from && note.t < end);
      cell.classList.toggle("rests", rests);
      const shows = bar.plays ? bar.pic || 0 : bar.p || 0;
      const picture = pictures[shows % pictures.length];
      if (k === at && bar.plays && lane.querySelector("[data-part]").dataset.part !== bar.plays) {
        lane.querySelector("[data-part]").dataset.part = bar.plays;
        this.letters();
      }
      if (cell.dataset.shows === `${lane.dataset.step} ${shows}`) return;
      cell.dataset.shows = `${lane.dataset.step} ${shows}`;
      cell.replaceChildren(picture.cloneNode(true));
    },

    // A lane is handed another step while it plays: the others go on.
    async hand(at, way) {
      const lane = this.lanes()[at];
      const to = lane?.dataset[way];
      if (!to || to === "0") return;
      try {
        const answer = await fetch(`/ladders/${this.$root.dataset.ladder}/together/${to}?on=${encodeURIComponent(lane.dataset.instruments)}`);
        if (!answer.ok) throw new Error("");
        const made = document.createElement("template");
        made.innerHTML = await answer.text();
        const fresh = made.content.querySelector("[data-lane]");
        fresh.querySelector("[data-names]").textContent = lane.querySelector("[data-names]").textContent;
        lane.replaceWith(fresh);
        fresh.focus();
        await this.load();
        if (this.playing) await this.player.swap(this.score);
        this.letters();
        this.switches();
        this.show(Math.max(0, this.now));
      } catch (fault) { this.problem = sentence(fault); }
    },
    sectionAt(bar) { return Math.max(0, this.score.bars.slice(0, bar + 1).findLastIndex((b) => b.sec)); },
    back() {
      if (!this.score) return;
      let to = this.sectionAt(Math.max(0, this.now));
      if (this.now - to < 1 && to > 0) to = this.sectionAt(to - 1);
      this.player?.jump(this.score.bars[to].from);
      this.show(to);
    },
    ends() {
      if (!this.player || !this.score) return;
      const { bars, ticks } = this.score;
      const from = this.rounding ? this.sectionAt(Math.max(0, this.now)) : 0;
      const next = this.rounding ? bars.findIndex((bar, i) => i > from && bar.sec) : -1;
      this.player.between(bars[from].from, next > 0 ? bars[next].from : ticks);
    },
    round() {
      this.rounding = !this.rounding;
      this.ends();
    },
    slower() { this.setTempo(this.tempo - 2); },
    faster() { this.setTempo(this.tempo + 2); },
    clicks() {
      this.click_on = !this.click_on;
      this.sounding({ click: this.click_on ? "beat" : "" });
    },
    names() {
      this.named = !this.named;
      sessionStorage.setItem("names on the lanes", this.named ? "yes" : "no");
      this.$root.classList.toggle("named", this.named);
    },
    full() { return document.fullscreenElement ? document.exitFullscreen() : document.documentElement.requestFullscreen().catch(() => {}); },

    click(event) {
      const button = event.target.closest("[data-do]");
      if (button) this.flip(button.dataset.do === "mute" ? this.mutes : this.solo, this.lanes().indexOf(button.closest("[data-lane]")));
    },
    chosen() { return this.lanes().indexOf(document.activeElement?.closest?.("[data-lane]")); },
    choose(by) {
      const lanes = this.lanes();
      lanes[Math.min(Math.max(this.chosen() + by, 0), lanes.length - 1)]?.focus();
    },
    press(event) {
      if (event.ctrlKey || event.metaKey || event.altKey || event.target.closest("input, textarea, select")) return;
      if ((event.key === " " || event.key === "Enter") && event.target.closest("button, summary, a")) return;
      const lane = this.chosen();
      const keys = {
        " ": () => this.toggle(), PageDown: () => this.toggle(), PageUp: () => this.back(), "+": () => this.faster(), "=": () => this.faster(), "-": () => this.slower(),
        ArrowUp: () => this.choose(-1), ArrowDown: () => this.choose(1), ArrowLeft: () => this.hand(lane, "below"), ArrowRight: () => this.hand(lane, "beyond"),
        m: () => this.flip(this.mutes, lane), s: () => this.flip(this.solo, lane), r: () => this.round(), c: () => this.clicks(), n: () => this.names(), f: () => this.full(), l: () => this.listen(),
        "?": () => { const list = this.$root.querySelector(".roomkeys"); list.open = !list.open; },
      };
      const does = keys[event.key] || (/^[1-9]$/.test(event.key) && (() => this.flip(this.mutes, Number(event.key) - 1)));
      if (!does || event.repeat && event.key === " ") return;
      event.preventDefault();
      does();
    },
    get earlabel() { return this.taking ? "that’s it" : this.thinking ? "listening…" : "listen"; },
    get label() { return this.playing ? "Stop" : "Play"; },
    get unit() { return !this.score || this.score.unit === "quarter" ? "BPM" : `BPM, ${this.score.unit}s`; },
  }));
});
