// Listen: counted in, some bars of the play bar are played into the microphone, and what was played is shown against what was
// asked for.
import { all } from "./all.js";
import { Told, sentence } from "./player.js";
import { feetOf } from "./feet.js";
import { Take } from "./take.js";
import { wav } from "./wav.js";

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
    get way() { return this.bar.earway; },
    toggle() { return this.taking ? this.finish() : this.listen(); },

    async listen() {
      const { bar } = this;
      if (this.off) return;
      this.close();
      this.problem = "";
      const [from, to] = bar.loop || [0, bar.score.bars.length - 1];
      this.take = new Take(bar.score, bar.tempo, from, to);
      try {
        await this.take.open();
        await bar.playFor(this, this.way);
      } catch (fault) {
        this.leave();
        this.problem = sentence(fault);
      }
    },
    // The play bar calls these when its sound card is open, and when it is known when the first beat comes.
    record(context) { return this.take.record(context); },
    begun(zero) {
      this.taking = true;
      this.take.begun(zero, () => this.finish());
      this.bar.said = `Play ${this.take.bars} bars${this.way ? ", with headphones on" : ""}.`;
    },
    leave() {
      this.taking = false;
      this.take?.leave();
    },
    async finish() {
      if (!this.taking) return;
      this.leave();
      this.bar.stop();
      this.thinking = true;
      this.bar.said = "Listening to it again…";
      try {
        this.show(await this.take.hear());
      } catch (fault) {
        this.problem = sentence(fault);
      }
      [this.thinking, this.bar.said] = [false, ""];
    },

    show(heard) {
      [this.says, this.clean, this.open] = [heard.sentence, heard.clean, true];
      this.$root.querySelector(".feet").replaceChildren(...feetOf(heard, this.take.score.bars[this.take.from].beats));
      this.$root.querySelector(".earfaults").replaceChildren(...heard.faults.map(({ says }) => {
        const el = document.createElement("li");
        el.textContent = `${says[0].toUpperCase()}${says.slice(1)}.`;
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
        const line = `${this.take.played(heard)}${how}`;
        (names.length ? names : [""]).forEach((name) => link(`${log}&take=${encodeURIComponent(line)}&line=${encodeURIComponent(`${name} ${line}`.trim())}`, name ? `Log it for ${name}` : "Log it"));
      }
      this.$root.querySelector(".earlinks").replaceChildren(...links, ...this.keeps(heard));
    },
    // Nothing is kept but by a press; those who stand on the step come first.
    keeps(heard) {
      const [says, tempo] = [heard.sentence, this.take.played(heard)];
      const step = document.querySelector(".step[aria-current]");
      const ladder = this.$root.dataset.log && new URL(this.$root.dataset.log, location.href).searchParams.get("ladder");
      const students = new Map([...all(".step[aria-current] .chip"), ...all(".chip")].map((chip) => [chip.dataset.student, chip.textContent.trim()]));
      if (!step || !ladder || !students.size) return [];
      const whose = document.createElement("select");
      whose.className = "form-select";
      whose.setAttribute("aria-label", "Keep it for");
      whose.append(...Array.from(students, ([id, name]) => new Option(name, id)));
      const el = document.createElement("button");
      [el.type, el.className, el.textContent, el.title] = ["button", "btn", "Keep it for", "The recording is kept on the student’s page until you delete it."];
      const uid = crypto.randomUUID?.() || "";
      el.addEventListener("click", () => this.keep(el, whose, { uid, student: whose.value, ladder, step: step.dataset.step, tempo, says }));
      return [el, whose];
    },
    async keep(el, whose, fields) {
      el.disabled = whose.disabled = true;
      this.problem = "";
      try {
        const form = new FormData();
        Object.entries(fields).forEach(([name, value]) => form.append(name, value));
        form.append("file", await this.take.kept(), "take.wav");
        const answer = await fetch("/takes", { method: "POST", body: form, headers: JSON.parse(document.body.getAttribute("hx-headers") || "{}") });
        const { says, why } = await answer.json().catch(() => ({}));
        if (!answer.ok) throw new Told(why || "The take couldn’t be kept. Try again in a moment.");
        whose.remove();
        el.textContent = says;
      } catch (fault) {
        el.disabled = whose.disabled = false;
        this.problem = sentence(fault);
      }
    },
    drills({ kind, bar, chord }, drill, link) {
      const { score, from, to } = this.take;
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
      this.bar.setTempo(this.take.tempo);
      await this.bar.play();
    },
    async both() {
      this.quiet();
      const { samples, rate, begins, tempo } = this.take;
      this.bar.setTempo(tempo);
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
      if (this.open) this.$root.querySelector(".earbutton").focus();
      [this.open, this.take, this.url] = [false, null, null];
    },
  }));
});

// l listens wherever it has no other meaning, and ends a take.
document.addEventListener("keydown", (event) => {
  if (event.key !== "l" || event.ctrlKey || event.metaKey || event.altKey || event.target.closest("input, textarea, select, [contenteditable], [data-strip]")) return;
  const el = document.querySelector("[x-data=listen]");
  if (!el) return;
  event.preventDefault();
  Alpine.$data(el).toggle();
});
