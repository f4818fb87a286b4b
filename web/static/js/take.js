// A take: some bars that are played into the microphone, and what the ear says of them. It is on this page alone, and goes with it.
import { Told } from "./player.js";
import { wav } from "./wav.js";

const lead = 0.25; // seconds before the first beat that are heard as well
const after = 0.5; // and after the last bar

const refused = {
  NotAllowedError: "The microphone is blocked for this page. Allow it beside the address, then listen again.",
  NotFoundError: "No microphone was found. Connect one, then listen again.",
  NotReadableError: "Another program has the microphone. Close it there, then listen again.",
};
// How far the sound of a busy device may fall behind the clock: more is heard as a fault of the player's, or as another beat of the class.
const behind = { strokes: 0.12, room: 0.8 }; // seconds
const busy = "This device couldn’t keep up while it listened, so the timing can’t be told. Close other pages and programs, then play it again.";
const unloaded = "The part that listens couldn’t be loaded. Try again in a moment.";

let worker = null;
// judged asks the worker; one take at a time.
function judged(ask, samples, room = false) {
  worker ||= new Worker("/static/js/ear-worker.js");
  return new Promise((resolve) => {
    worker.onmessage = ({ data }) => resolve(data);
    worker.onerror = () => {
      worker = null;
      resolve({ problem: unloaded });
    };
    worker.postMessage({ ask: JSON.stringify(ask), samples, room });
  });
}

// How many bars are listened to of so many that come round: whole rounds, four at least, two rounds where sixteen leave room.
export function takeBars(round) {
  let n = round;
  while (n < 4 || (n < 2 * round && n + round <= 16)) n += round;
  return Math.min(n, 16);
}

// The first bars, so many at most, that have one pattern and one time signature, and something to play: from and to.
export function alike({ bars, notes, beat }, most) {
  const sounds = (bar) => notes.some(({ t, k }) => t >= bar.from && t < bar.from + bar.beats * beat && k !== "stop");
  let best = [0, 0];
  for (let from = 0; from < bars.length; from++) {
    let to = from;
    if (bars[from].f < 0 || !sounds(bars[from])) continue;
    while (to + 1 < bars.length && to + 1 - from < most && bars[to + 1].f === bars[from].f && bars[to + 1].beats === bars[from].beats && sounds(bars[to + 1])) to++;
    if (to - from > best[1] - best[0]) best = [from, to];
    if (to - from + 1 === most) break;
  }
  return best;
}

// What is listened for of a score.
const asked = ({ beat, figures, bars, notes }) => ({
  beat, figures: figures.map(({ n }) => ({ n })),
  bars: bars.map(({ from, beats, f, p, ch }) => ({ from, beats, f, p: p || 0, ch: ch || [] })),
  notes: notes.map(({ t, late, s, m, k, by, loud }) => ({ t, late: late || 0, s: s || 0, m: m || 0, k, by: by || "", loud: loud || 0 })),
});

export class Take {
  // Of a score from one bar to another, counted from 0, at a tempo.
  constructor(score, tempo, from, to) {
    const round = Math.min(to - from + 1, 16);
    Object.assign(this, { score, tempo, from, to: from + round - 1, bars: takeBars(round), blocks: [] });
  }
  get seconds() { return this.bars * this.score.bars[this.from].beats * 60 / this.tempo; }

  // open asks for the microphone; where it is refused there is a sentence.
  async open() {
    if (!navigator.mediaDevices?.getUserMedia) throw new Told("A browser lends its microphone to secure addresses (https) only.");
    try {
      this.stream = await navigator.mediaDevices.getUserMedia({ audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false } });
    } catch (fault) {
      throw new Told(refused[fault.name] || "The microphone could not be opened.");
    }
  }
  // record begins before the first beat is counted.
  async record(context) {
    await context.audioWorklet.addModule("/static/js/ear-recorder.js");
    this.context = context;
    this.node = new AudioWorkletNode(context, "recorder", { numberOfOutputs: 0 });
    this.node.port.onmessage = ({ data }) => this.blocks.push(data);
    context.createMediaStreamSource(this.stream).connect(this.node);
  }
  // begun says when the first beat comes, by the sound card; a take ends by itself.
  begun(zero, ended) {
    this.zero = zero;
    this.apart = this.clocks();
    this.ending = setTimeout(ended, (zero + this.seconds + after - this.context.currentTime) * 1000);
  }
  // clocks is how far the clock on the wall is ahead of that of the sound, in seconds.
  clocks() { return performance.now() / 1000 - this.context.currentTime; }
  // leave gives the microphone back.
  leave() {
    if (this.stream && this.zero !== undefined) this.lost = this.clocks() - this.apart;
    clearTimeout(this.ending);
    this.node?.disconnect();
    this.stream?.getTracks().forEach((track) => track.stop());
    this.stream = null;
  }
  // hear is what the ear says: a sentence, places, faults; or a problem.
  async hear() {
    this.gather(behind.strokes);
    const { tempo, from, to, bars, rate } = this;
    const heard = await judged({ score: asked(this.score), tempo, from, to, bars, rate }, this.samples);
    if (heard.problem) throw new Told(heard.problem[0].toUpperCase() + heard.problem.slice(1));
    this.begins = Math.max(0, heard.begins) / 1000;
    return heard;
  }
  // hearRoom is whether a class held the beat.
  async hearRoom() {
    this.gather(behind.room);
    const heard = await judged({ tempo: this.tempo, rate: this.rate }, this.samples, true);
    if (heard.problem) throw new Told(heard.problem[0].toUpperCase() + heard.problem.slice(1));
    return heard;
  }
  // played is the tempo of a take: what was asked for, where it was held to a beat a minute or can't be told.
  played({ told, tempo }) { return !told || Math.abs(tempo - this.tempo) <= 1 ? this.tempo : tempo; }
  // kept is the take as it is kept: a WAV at the rate of the sheets' sounds.
  async kept() {
    const { samples, rate } = this;
    const to = 44100;
    const offline = new OfflineAudioContext(1, Math.max(1, Math.round(samples.length * to / rate)), to);
    const buffer = new AudioBuffer({ length: samples.length, sampleRate: rate });
    buffer.copyToChannel(samples, 0);
    const source = new AudioBufferSourceNode(offline, { buffer });
    source.connect(offline.destination);
    source.start();
    return wav((await offline.startRendering()).getChannelData(0), to);
  }
  gather(most) {
    this.rate = this.context.sampleRate;
    const first = Math.round((this.zero - lead) * this.rate);
    const own = this.blocks.filter(({ end }) => end > first);
    this.samples = new Float32Array(own.reduce((sum, { samples }) => sum + samples.length, 0));
    own.reduce((at, { samples }) => { this.samples.set(samples, at); return at + samples.length; }, 0);
    this.blocks = [];
    if (this.lost > most) throw new Told(busy);
  }
}
