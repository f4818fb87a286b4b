// Listen: counted in, some bars are played into the microphone, and what was played is shown against what was asked for. The
// recording stays on this page, and goes with it.
import { all } from "./all.js";
import { feet } from "./feet.js";
import { wav } from "./wav.js";

const lead = 0.25; // seconds before the first beat that are heard as well
const after = 0.5; // and after the last bar
const faults = {
  NotAllowedError: "The microphone is blocked for this page. Allow it beside the address, then listen again.",
  NotFoundError: "No microphone was found. Connect one, then listen again.",
  NotReadableError: "Another program has the microphone. Close it there, then listen again.",
};

let worker = null;
// judged asks the worker; one take at a time.
function judged(ask, samples) {
  worker ||= new Worker("/static/js/ear-worker.js");
  return new Promise((resolve) => {
    worker.onmessage = ({ data }) => resolve(data);
    worker.onerror = () => {
      worker = null;
      resolve({ problem: "the part that listens couldn’t be loaded. Try again in a moment." });
    };
    worker.postMessage({ ask: JSON.stringify(ask), samples });
  });
}

// How many bars are listened to of so many that come round: as listen.TakeBars has it.
function takeBars(round) {
  let n = round;
  while (n < 4 || (n < 2 * round && n + round <= 16)) n += round;
  return Math.min(n, 16);
}

document.addEventListener("alpine:init", () => {
  Alpine.data("listen", () => ({
    taking: false, thinking: false, open: false, says: "", problem: "", take: null, clean: false,
    init() {
      this.bar.ear = this;
      addEventListener("pagehide", () => this.leave());
    },
    get bar() { return Alpine.$data(this.$root.closest(".playbar")); },
    get off() { return !this.bar.score || Boolean(this.bar.parts) || this.thinking || (this.bar.playing && !this.taking); },
    get label() { return this.taking ? "That’s it" : this.thinking ? "Listening…" : "Listen"; },
    get kept() { return Boolean(this.take); },
    toggle() { return this.taking ? this.finish() : this.listen(); },

    async listen() {
      const { bar } = this;
      if (this.off) return;
      [this.problem, this.open] = ["", false];
      this.quiet();
      if (!navigator.mediaDevices?.getUserMedia) return void (this.problem = "A browser lends its microphone to secure addresses (https) only.");
      const [from, to] = bar.loop || [0, bar.score.bars.length - 1];
      const round = Math.min(to - from + 1, 16);
      this.ask = { score: bar.score, tempo: bar.tempo, from, to: from + round - 1, bars: takeBars(round) };
      try {
        this.stream = await navigator.mediaDevices.getUserMedia({ audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false } });
        await bar.playFor(this, this.way);
      } catch (fault) {
        this.leave();
        this.problem = faults[fault.name] || "The microphone could not be opened.";
      }
    },
    get way() { return this.bar.$root.querySelector("[name=earway]").value; },
    // The play bar calls it when its sound card is open: the recorder begins before the first beat is counted.
    async record(context) {
      await context.audioWorklet.addModule("/static/js/ear-recorder.js");
      this.context = context;
      this.blocks = [];
      this.node = new AudioWorkletNode(context, "recorder", { numberOfOutputs: 0 });
      this.node.port.onmessage = ({ data }) => this.blocks.push(data);
      context.createMediaStreamSource(this.stream).connect(this.node);
    },
    // The first beat comes at a time of the sound card; the take ends by itself.
    begun(zero) {
      const { score, tempo, bars, from } = this.ask;
      this.zero = zero;
      this.taking = true;
      const seconds = bars * score.bars[from].beats * 60 / tempo;
      this.ending = setTimeout(() => this.finish(), (zero + seconds + after - this.context.currentTime) * 1000);
      this.bar.said = `Play ${bars} bars${this.way ? ", with headphones on" : ""}.`;
    },
    async finish() {
      if (!this.taking) return;
      const samples = this.samples();
      this.leave();
      this.bar.stop();
      this.thinking = true;
      this.bar.said = "Listening to it again…";
      const rate = this.context.sampleRate;
      const heard = await judged({ ...this.ask, score: asked(this.ask.score), rate }, samples);
      [this.thinking, this.bar.said] = [false, ""];
      if (heard.problem) return void (this.problem = heard.problem[0].toUpperCase() + heard.problem.slice(1));
      this.take = { samples, rate, begins: Math.max(0, heard.begins) / 1000 };
      this.show(heard);
    },
    // samples are those from shortly before the first beat on.
    samples() {
      const rate = this.context.sampleRate;
      const first = Math.round((this.zero - lead) * rate);
      const own = this.blocks.filter(({ end }) => end > first);
      const out = new Float32Array(own.reduce((sum, { samples }) => sum + samples.length, 0));
      own.reduce((at, { samples }) => { out.set(samples, at); return at + samples.length; }, 0);
      return out;
    },
    // leave gives the microphone back.
    leave() {
      clearTimeout(this.ending);
      this.taking = false;
      this.node?.disconnect();
      this.stream?.getTracks().forEach((track) => track.stop());
      this.stream = null;
    },

    show(heard) {
      const { score, from } = this.ask;
      [this.says, this.clean, this.open] = [heard.sentence, heard.clean, true];
      const bars = [...new Set(heard.places.map((place) => place.bar))];
      this.$root.querySelector(".feet").replaceChildren(...bars.map((n) => {
        const places = heard.places.filter((place) => place.bar === n);
        return feet(places, { bar: heard.bar, beats: score.bars[from].beats, label: `Bar ${n + 1} of the pattern: ${places.map((place) => `${place.off > 0 ? "+" : ""}${place.off}`).join(", ")} milliseconds` });
      }));
      this.$root.querySelector(".earfaults").replaceChildren(...heard.faults.map((fault) => {
        const el = document.createElement("li");
        el.textContent = fault.says[0].toUpperCase() + fault.says.slice(1) + ".";
        return el;
      }));
      this.links(heard);
      this.$root.dataset.heard = JSON.stringify(heard);
    },
    // What follows from a take: a drill of the place, and a line of the log for who stands on the step.
    links(heard) {
      const { log, drill } = this.$root.dataset;
      const links = [];
      const link = (href, text) => {
        const el = document.createElement("a");
        [el.className, el.href, el.textContent] = ["btn", href, text];
        links.push(el);
      };
      if (drill && heard.faults.length) this.drills(heard.faults[0], drill, link);
      if (log && heard.told) {
        const names = all(".step[aria-current] .chip").map((chip) => chip.textContent.trim()).slice(0, 4);
        const how = heard.clean ? "" : ` x${heard.log ? ` ${heard.log}` : ""}`;
        (names.length ? names : [""]).forEach((name) => link(`${log}&line=${encodeURIComponent(`${name} ${heard.tempo}${how}`.trim())}`, name ? `Log it for ${name}` : "Log it"));
      }
      this.$root.querySelector(".earlinks").replaceChildren(...links);
    },

    drills({ kind, bar, chord }, drill, link) {
      const { score, from, to } = this.ask;
      const round = score.bars.slice(from, to + 1);
      const at = kind === "stops" ? round.find((b) => b.ch?.some(({ c }) => c === chord)) : round[Math.max(0, bar)];
      const ids = [...new Set(score.bars.map((b) => b.id))]; // as they are written, where each comes once first
      const number = at?.id ? `&bar=${ids.indexOf(at.id) + 1}` : "";
      link(`${drill}&kind=${kind === "stops" ? "change" : "bar"}${number}`, kind === "stops" ? `Drill the change into ${chord}` : "Drill this bar");
    },

    // The take, as it was or slowly, alone or over what was asked for.
    mine() { this.sounds(1); },
    slowly() { this.sounds(0.5); },
    sounds(speed) {
      this.quiet();
      this.bar.stop();
      this.url ||= URL.createObjectURL(wav(this.take.samples, this.take.rate));
      this.audio = new Audio(this.url);
      Object.assign(this.audio, { playbackRate: speed, preservesPitch: true });
      this.audio.play().catch(() => { this.problem = "The take couldn’t be played here."; });
    },
    async theirs() {
      this.quiet();
      this.bar.setTempo(this.ask.tempo);
      await this.bar.play();
    },
    async both() {
      this.quiet();
      const { samples, rate, begins } = this.take;
      this.bar.setTempo(this.ask.tempo);
      await this.bar.playFor({ record: async () => {}, begun: (zero, context, out) => {
        const buffer = new AudioBuffer({ length: samples.length, sampleRate: rate });
        buffer.copyToChannel(samples, 0);
        this.source = new AudioBufferSourceNode(context, { buffer });
        this.source.connect(out);
        const late = Math.max(0, context.currentTime - zero);
        this.source.start(zero + late, begins + late);
      } }, "both");
    },
    quiet() {
      this.audio?.pause();
      try { this.source?.stop(); } catch { /* it had ended */ }
      [this.audio, this.source] = [null, null];
    },
    close() {
      this.quiet();
      if (this.url) URL.revokeObjectURL(this.url);
      [this.open, this.take, this.url] = [false, null, null];
      this.$root.querySelector(".earbutton").focus();
    },
  }));
});

// asked is of a score what is listened for.
const asked = ({ beat, figures, bars, notes }) => ({
  beat, figures: figures.map(({ n }) => ({ n })),
  bars: bars.map(({ from, beats, f, p, ch }) => ({ from, beats, f, p: p || 0, ch: ch || [] })),
  notes: notes.map(({ t, late, s, m, k, by, loud }) => ({ t, late: late || 0, s: s || 0, m: m || 0, k, by: by || "", loud: loud || 0 })),
});

// l listens wherever it has no other meaning, and ends a take.
document.addEventListener("keydown", (event) => {
  if (event.key !== "l" || event.ctrlKey || event.metaKey || event.altKey || event.target.closest("input, textarea, select, [contenteditable], [data-strip]")) return;
  const el = document.querySelector("[x-data=listen]");
  if (!el) return;
  event.preventDefault();
  Alpine.$data(el).toggle();
});
