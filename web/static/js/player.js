// The player: tones are made by the server and kept by the browser; what sounds when was
// computed there, too. Here it is scheduled ahead of the clock of the sound card, so that
// a page that is busy does not stumble.
const tones = new Map(); // decoded, by address

// Where they are: a student's page has an address of its own for them.
const from = document.documentElement.dataset.tones || "/tones";
const clicks = [`${from}?as=click`, `${from}?as=first`];

// toneOf is the address of a note's tone, on the strings that it is played on.
function toneOf(note, strings) {
  if (note.k === "knock") return `${from}?as=knock`;
  return `${from}?of=${strings}&as=${note.k}&midi=${note.m}`;
}

const rate = 44100; // of the tones, so that they are decoded as they are
let decoder = null;
async function load(address) {
  if (!tones.has(address)) {
    tones.set(address, fetch(address).then((answer) => {
      if (!answer.ok) throw new Error(String(answer.status));
      return answer.arrayBuffer();
    }).then((data) => (decoder ||= new OfflineAudioContext(1, 1, rate)).decodeAudioData(data)));
    tones.get(address).catch(() => tones.delete(address));
  }
  return tones.get(address);
}

// Told is a fault with a sentence for people; of any other the message is the machine's.
class Told extends Error {}

// How bars come one after another where a figure is practised: one bar, two, four, each
// twice, then all of it without the click. Source: common practice.
const growing = [1, 1, 2, 2, 4, 4];

// A Player plays one score on a context. Its options: out (a node), tempo, click ("beat",
// "off", "one", "gaps" or none), countIn, silent (parts of the hand) and muted (lanes),
// up and every (the tempo goes up by so many after so many rounds), grow. It tells
// changed(tempo), and stage(bars) where it grows.
class Player {
  constructor(context, score, options) {
    Object.assign(this, { context, options, playing: false, ringing: new Map(), at: 0, from: 0, rounds: 0, trail: [] });
    this.take(score);
    this.to = score.ticks;
  }

  take(score) {
    this.score = score;
    this.pulses = null;
  }

  // Every click that there can be: beats, eighths of a slow compound beat, off beats.
  clicks() {
    const { beat, eighth, slower, bars } = this.score;
    const { click, tempo } = this.options;
    const every = eighth && tempo < slower ? eighth : beat;
    const key = `${click} ${every}`;
    if (this.pulses?.key === key) return this.pulses;
    this.pulses = bars.flatMap((bar, i) => Array.from({ length: bar.beats * beat / every }, (_, k) => ({
      at: bar.from + k * every + (click === "off" ? every / 2 : 0), first: k === 0 && click !== "off",
      sounds: Boolean(click) && (click !== "one" || k === 0) && (click !== "gaps" || i % 2 === 0),
    })));
    this.pulses.key = key;
    if (this.pulse !== undefined) this.seekPulse(this.at + 1e-9); // what was clicked is not clicked again
    return this.pulses;
  }

  addresses() {
    const addresses = new Set(this.score.notes.filter((note) => note.k !== "stop").map((note) => toneOf(note, this.strings(note))));
    clicks.forEach((address) => addresses.add(address));
    return [...addresses];
  }

  strings(note) { return this.score.lanes ? this.score.lanes[note.lane] : this.score.strings; }

  async prepare(addresses = this.addresses()) {
    const loaded = await Promise.all(addresses.map(async (address) => [address, await load(address)]));
    this.tones = new Map([...(this.tones || []), ...loaded]);
  }

  // begin starts as soon as it can: when the tones of its first second are there, and when it
  // counts in, at once. The others are on their way; where they are late, it waits for them.
  async begin() {
    const soon = this.at + 1 / this.tick();
    const first = this.score.notes.filter((note) => note.t >= this.at && note.t <= soon && note.k !== "stop").map((note) => toneOf(note, this.strings(note)));
    const all = this.prepare();
    this.waiting = true;
    all.then(() => { this.waiting = false; }, () => { this.waiting = false; });
    await this.prepare(this.options.countIn ? clicks : [...clicks, ...first]);
    this.start();
    await all;
  }
  late(note) { return this.waiting && note.k !== "stop" && !this.tones.has(toneOf(note, this.strings(note))); }

  // seconds a tick lasts now.
  tick() { return 60 / this.options.tempo / this.score.beat; }

  start(when = this.context.currentTime + 0.03) {
    this.playing = true;
    this.when = when; // that the tick "at" sounds
    if (this.options.grow) this.growTo(0);
    if (this.options.countIn) this.countIn(when);
    this.zero = this.when; // that its first beat sounds
    this.seek(this.at);
  }

  countIn(when) {
    const { bars, beat } = this.score;
    const bar = bars.findLast((b) => b.from <= this.at) || bars[0];
    const beats = bar?.beats || 4;
    this.trail.push({ time: when, tick: this.at - beats * beat, step: this.tick() });
    for (const pulse of this.clicks()) {
      const since = pulse.at - (bar ? bar.from : 0);
      if (since >= 0 && since < beats * beat) this.click(when + since * this.tick(), pulse.first);
    }
    this.when += beats * beat * this.tick();
  }

  // seek finds the note and the click that come at a tick or after it.
  seek(tick) {
    const at = this.score.notes.findIndex((note) => note.t >= tick);
    this.next = at < 0 ? this.score.notes.length : at;
    this.seekPulse(tick);
  }
  seekPulse(tick) {
    this.pulse = 0;
    const at = this.clicks().findIndex((pulse) => pulse.at >= tick);
    this.pulse = at < 0 ? this.pulses.length : at;
  }

  // schedule hands over everything that is due before a time.
  schedule(until) {
    if (!this.playing) return;
    while (true) {
      const { notes } = this.score;
      const note = notes[this.next];
      const pulse = this.clicks()[this.pulse];
      const tick = Math.min(note ? note.t : Infinity, pulse ? pulse.at : Infinity, this.to);
      const time = this.when + (tick - this.at) * this.tick();
      if (time >= until) return;
      this.at = tick;
      this.when = time;
      if (note && note.t === tick && this.late(note)) return void (this.when = Math.max(time, this.context.currentTime + 0.1));
      if (tick >= this.to) {
        if (!this.round()) return;
        continue;
      }
      this.trail.push({ time, tick, step: this.tick() });
      if (pulse && tick === pulse.at) {
        if (pulse.sounds) this.click(time, pulse.first);
        this.pulse++;
      }
      while (this.next < notes.length && notes[this.next].t === tick) this.sound(notes[this.next++], time);
    }
  }

  // round goes back to the beginning of the loop, faster or with more bars where that is asked for.
  round() {
    this.rounds++;
    const { up, every, most = 300, grow } = this.options;
    if (up && this.rounds % (every || 1) === 0) {
      this.options.tempo = Math.min(most, this.options.tempo + up);
      this.options.changed?.(this.options.tempo);
    }
    if (grow) this.growTo(this.rounds);
    this.at = this.from;
    if (this.to <= this.from) return false; // nothing to play
    this.seek(this.from);
    return true;
  }

  growTo(round) {
    const { bars, ticks } = this.score;
    const n = growing[round];
    const whole = !n || n >= bars.length;
    [this.from, this.to] = [0, whole ? ticks : bars[n].from];
    this.options.click = whole && round >= growing.length ? "" : this.options.click || "beat";
    this.options.stage?.(whole ? 0 : n, this.options.click);
  }

  click(time, first) {
    const source = this.context.createBufferSource();
    source.buffer = this.tones.get(clicks[first ? 1 : 0]);
    source.connect(this.options.out);
    source.start(time);
  }

  sound(note, time) {
    const start = time + (note.late || 0) / 1000;
    const lane = note.lane || 0;
    if (note.k === "stop") {
      [...this.ringing.keys()].forEach((string) => { if (string.startsWith(`${lane} `)) this.hush(string, start); });
      return;
    }
    if (this.options.silent?.has(note.by) || this.options.muted?.has(lane)) return;
    const buffer = this.tones.get(toneOf(note, this.strings(note)));
    if (!buffer) return;
    const source = this.context.createBufferSource();
    source.buffer = buffer;
    const gain = this.context.createGain();
    gain.gain.setValueAtTime(note.loud, start);
    source.connect(gain).connect(this.options.out);
    source.start(start);
    if (!note.s) return;
    const string = `${lane} ${note.by === "chords" ? "c" : ""}${note.s}`;
    this.hush(string, start); // it rings until it is used again
    this.ringing.set(string, { gain: gain.gain, source, by: note.by, lane });
  }

  hush(string, time) {
    const rings = this.ringing.get(string);
    if (!rings) return;
    rings.gain.cancelScheduledValues(time);
    rings.gain.setTargetAtTime(0, time, 0.008);
    rings.source.stop(time + 0.08); // else it would be computed to its end, unheard
    this.ringing.delete(string);
  }

  // swap has another score go on where this one is: what was edited, another feel, a lane
  // that was handed another step.
  async swap(score) {
    const next = new Player(this.context, score, this.options);
    await next.prepare();
    this.tones = new Map([...this.tones, ...next.tones]);
    const whole = this.from === 0 && this.to === this.score.ticks;
    this.take(score);
    if (whole || this.to > score.ticks) [this.from, this.to] = [0, score.ticks];
    if (this.at > this.to) this.at = this.from;
    if (this.playing) this.seek(this.at + 1e-9);
  }

  // between sets the ends of what goes round; a playhead beyond them comes in.
  between(from, to) {
    Object.assign(this, { from, to });
    if (!this.playing) this.at = from;
    else if (this.at >= to || this.at < from) this.jump(from);
  }

  // jump goes on from another tick, at once.
  jump(tick) {
    this.at = tick;
    if (!this.playing) return;
    this.when = this.context.currentTime + 0.06;
    [...this.ringing.keys()].forEach((string) => this.hush(string, this.when));
    this.trail = this.trail.filter((point) => point.time < this.when);
    this.seek(tick);
  }

  // set changes how it is played while it plays. What is switched off does not ring on: a bass would, for
  // seconds.
  set(options) {
    Object.assign(this.options, options);
    const { silent, muted } = this.options;
    this.ringing.forEach(({ by, lane }, string) => { if (silent?.has(by) || muted?.has(lane)) this.hush(string, this.context.currentTime); });
  }

  // position is the tick that sounds at a time; less than the beginning while it is
  // counted in, none before anything sounds.
  position(time) {
    let here = null;
    while (this.trail.length && this.trail[0].time <= time) here = this.trail.shift();
    if (here) this.trail.unshift(here);
    else here = this.trail[0]?.time <= time ? this.trail[0] : null;
    return here ? here.tick + (time - here.time) / here.step : null;
  }

  stop() {
    this.playing = false;
    [...this.ringing.keys()].forEach((string) => this.hush(string, this.context.currentTime));
    this.trail = [];
    this.rounds = 0;
  }
}

// speaker opens the way to the loudspeaker once, or says in a sentence why there is none.
// There is room for strums of the whole hand over a click, as in the files (sound/mix.go); what
// would still go over full scale is held back.
let opened = null;
const mute = "This device gives no sound. Check that a loudspeaker or headphones are connected, then press Play again.";
async function speaker() {
  try {
    if (!opened) {
      const context = new AudioContext({ latencyHint: "interactive", sampleRate: rate });
      const level = new GainNode(context, { gain: 0.72 });
      const limit = new DynamicsCompressorNode(context, { threshold: -4, knee: 2, ratio: 16, attack: 0.001, release: 0.08 });
      level.connect(limit).connect(context.destination);
      opened = { context, out: level };
    }
  } catch {
    throw new Told(mute);
  }
  const running = await Promise.race([opened.context.resume().then(() => true, () => false), new Promise((late) => setTimeout(late, 2500, false))]);
  if (!running) throw new Told(mute);
  return opened;
}
// The loudspeaker is opened when a button goes down, and the clicks are there before: what is
// played sounds at once.
document.addEventListener("pointerdown", (event) => { if (event.target.closest("[data-hear], .playbar .btn-primary")) speaker().catch(() => {}); });
addEventListener("load", () => { if (document.querySelector("[data-play], #together")) clicks.forEach((address) => load(address).catch(() => {})); });
const scores = new Map();
document.addEventListener("htmx:afterSettle", () => scores.clear()); // what was edited is another score
async function scoreAt(url) {
  if (scores.has(url)) return scores.get(url);
  const answer = await fetch(url, { headers: { Accept: "application/json" } });
  if (answer.status === 422) throw new Told(await answer.text());
  if (!answer.ok) throw new Error(String(answer.status));
  const score = await answer.json();
  scores.set(url, score);
  return score;
}

// A tone by itself, to tune to: pressed again it begins again.
let ear = null;
async function hearTone(address) {
  const { context, out } = await speaker();
  const buffer = await load(address);
  ear?.stop();
  ear = new AudioBufferSourceNode(context, { buffer });
  ear.connect(out);
  ear.start();
}
document.addEventListener("click", (event) => {
  const tone = event.target.closest("[data-tone]");
  if (tone) hearTone(tone.dataset.tone).then(() => { tone.dataset.heard = "yes"; }, (fault) => { tone.title = sentence(fault); });
});

const lost = "The sounds couldn’t load. Try again when you’re online.";
const sentence = (fault) => (fault instanceof Told ? fault.message : lost);
export { Player, Told, speaker, scoreAt, sentence, load, clicks };
