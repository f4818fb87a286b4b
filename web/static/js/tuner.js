// The tuner: the pitch of what the microphone hears, against the open strings of the page.
import { all } from "./all.js";

const clear = 0.93; // how sure of a pitch, from 0 to 1
const quiet = 0.004; // below it is the room
const steady = 5; // readings of which the middle one counts
const close = 3; // cents that nobody hears: in tune

const faults = {
  NotAllowedError: "The microphone is blocked for this page. Allow it beside the address, or tune by ear.",
  NotFoundError: "No microphone was found. Connect one, or tune by ear: press a string.",
  NotReadableError: "Another program has the microphone. Close it there, or tune by ear.",
};

document.addEventListener("alpine:init", () => {
  Alpine.data("tuner", () => ({
    listening: false, heard: false, says: "", problem: "", readings: [], last: 0,
    init() { addEventListener("pagehide", () => this.stop()); },
    get label() { return this.listening ? "Stop listening" : "Listen"; },
    toggle() { return this.listening ? this.stop() : this.listen(); },
    async listen() {
      this.problem = "";
      if (!navigator.mediaDevices?.getUserMedia) {
        this.problem = "A browser lends its microphone to secure addresses (https) only. Tune by ear: press a string.";
        return;
      }
      try {
        this.stream = await navigator.mediaDevices.getUserMedia({ audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false } });
        this.context = new AudioContext();
        this.ear = new AnalyserNode(this.context, { fftSize: 8192 });
        this.context.createMediaStreamSource(this.stream).connect(this.ear);
      } catch (fault) {
        this.problem = faults[fault.name] || "The microphone could not be opened. Tune by ear: press a string.";
        return this.stop();
      }
      this.detector = pitchy.PitchDetector.forFloat32Array(this.ear.fftSize);
      this.samples = new Float32Array(this.ear.fftSize);
      this.listening = true;
      this.says = "Play a string.";
      this.timer = setInterval(() => this.read(), 60);
    },
    read() {
      this.ear.getFloatTimeDomainData(this.samples);
      const [hertz, sure] = this.detector.findPitch(this.samples, this.context.sampleRate);
      const loud = Math.sqrt(this.samples.reduce((sum, x) => sum + x * x, 0) / this.samples.length);
      if (sure < clear || loud < quiet || hertz < 50) {
        if (performance.now() - this.last > 1500) [this.heard, this.readings] = [false, []];
        return;
      }
      this.last = performance.now();
      const strings = all("[data-hertz]", this.$root).map((el) => ({ el, cents: 1200 * Math.log2(hertz / el.dataset.hertz) }));
      const near = strings.reduce((best, string) => (Math.abs(string.cents) < Math.abs(best.cents) ? string : best));
      if (this.on !== near.el) [this.on, this.readings] = [near.el, []];
      this.readings = [...this.readings, near.cents].slice(-steady);
      const cents = [...this.readings].sort((a, b) => a - b)[Math.floor(this.readings.length / 2)];
      this.show(near.el, cents);
    },
    show(el, cents) {
      this.heard = true;
      const off = Math.round(cents);
      const far = Math.abs(off);
      const tuned = far <= close;
      all("[data-hertz]", this.$root).forEach((other) => {
        other.classList.toggle("on", other === el);
        other.classList.toggle("tuned", other === el && tuned);
      });
      this.$root.dataset.cents = cents.toFixed(1);
      const needle = this.$root.querySelector(".tunerneedle");
      needle.style.left = `${50 + Math.max(-50, Math.min(50, cents))}%`;
      needle.classList.toggle("tuned", tuned);
      const way = off < 0 ? "low. Tighten it." : "high. Loosen it, then tune back up.";
      this.says = tuned ? `${el.dataset.name} is in tune.` : far > 60 ? `${el.dataset.name} is the nearest string, more than a quarter tone too ${off < 0 ? "low" : "high"}.` : `${el.dataset.name} is ${far} cents too ${way}.`;
    },
    stop() {
      clearInterval(this.timer);
      this.stream?.getTracks().forEach((track) => track.stop());
      this.context?.close();
      [this.listening, this.heard, this.says, this.stream, this.context] = [false, false, "", null, null];
      all(".openstring", this.$root).forEach((el) => el.classList.remove("on", "tuned"));
    },
  }));
});
