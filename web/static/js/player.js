// The play bar: tones are made by the server and kept by the browser; what sounds when was
// computed there, too. Here it is scheduled ahead of the clock of the sound card, so that
// a page that is busy does not stumble.
(function () {
  "use strict";
  const { all } = window.arplin;
  const ahead = 0.2; // seconds
  const tones = new Map(); // decoded, by address

  // toneOf is the address of a note's tone.
  function toneOf(score, note) {
    if (note.k === "knock") return "/tones?as=knock";
    return `/tones?of=${score.strings}&as=${note.k}&midi=${note.m}`;
  }

  async function load(context, address) {
    if (!tones.has(address)) {
      tones.set(address, fetch(address).then((answer) => {
        if (!answer.ok) throw new Error(String(answer.status));
        return answer.arrayBuffer();
      }).then((data) => context.decodeAudioData(data)));
      tones.get(address).catch(() => tones.delete(address));
    }
    return tones.get(address);
  }

  // A player plays one score on a context; onset by onset it is told what is due.
  class Player {
    constructor(context, score, options) {
      Object.assign(this, { context, score, options, at: 0, from: 0, to: score.ticks, ringing: new Map(), playing: false });
      // Beats are those of each bar: after a short bar the count begins with the next one.
      this.beats = score.bars.flatMap((bar) => Array.from({ length: bar.beats }, (_, i) => ({ at: bar.from + i * score.beat, first: i === 0 })));
    }

    async prepare() {
      const addresses = new Set(this.score.notes.filter((note) => note.k !== "stop").map((note) => toneOf(this.score, note)));
      ["/tones?as=click", "/tones?as=first"].forEach((address) => addresses.add(address));
      this.tones = new Map(await Promise.all([...addresses].map(async (address) => [address, await load(this.context, address)])));
    }

    // seconds a tick lasts now.
    tick() { return 60 / this.options.tempo / this.score.beat; }

    start(when = this.context.currentTime + 0.05) {
      this.playing = true;
      this.when = when; // that the tick "at" sounds
      if (this.options.countIn) {
        const beats = this.score.bars[0]?.beats || 4;
        for (let beat = 0; beat < beats; beat++) this.click(when + beat * this.tick() * this.score.beat, beat === 0);
        this.when += beats * this.tick() * this.score.beat;
      }
      this.seek(this.at);
    }

    // seek finds the note and the beat that come at a tick or after it.
    seek(tick) {
      const from = (list, of) => { const i = list.findIndex((x) => of(x) >= tick); return i < 0 ? list.length : i; };
      this.next = from(this.score.notes, (note) => note.t);
      this.beat = from(this.beats, (beat) => beat.at);
    }

    // schedule hands over everything that is due before a time.
    schedule(until) {
      if (!this.playing) return;
      const { notes } = this.score;
      while (true) {
        const note = notes[this.next];
        const beat = this.beats[this.beat];
        const tick = Math.min(note ? note.t : Infinity, beat ? beat.at : Infinity, this.to);
        const time = this.when + (tick - this.at) * this.tick();
        if (time >= until) return;
        this.at = tick;
        this.when = time;
        if (tick >= this.to) {
          this.at = this.from;
          if (this.to <= this.from) return; // nothing to play
          this.seek(this.from);
          continue;
        }
        if (beat && tick === beat.at) {
          if (this.options.click) this.click(time, beat.first);
          this.options.beat?.(tick, time);
          this.beat++;
        }
        while (this.next < notes.length && notes[this.next].t === tick) this.sound(notes[this.next++], time);
      }
    }

    click(time, first) {
      const source = this.context.createBufferSource();
      source.buffer = this.tones.get(first ? "/tones?as=first" : "/tones?as=click");
      source.connect(this.options.out);
      source.start(time);
    }

    sound(note, time) {
      const start = time + (note.late || 0) / 1000;
      if (note.k === "stop") {
        this.ringing.forEach((gain) => this.hush(gain, start));
        return void this.ringing.clear();
      }
      if (this.options.silent?.has(note.by)) return;
      const source = this.context.createBufferSource();
      source.buffer = this.tones.get(toneOf(this.score, note));
      const gain = this.context.createGain();
      gain.gain.setValueAtTime(note.loud, start);
      source.connect(gain).connect(this.options.out);
      source.start(start);
      if (!note.s) return;
      const before = this.ringing.get(note.s); // a string rings until it is used again
      if (before) this.hush(before, start);
      this.ringing.set(note.s, gain);
    }

    hush(gain, time) {
      gain.gain.cancelScheduledValues(time);
      gain.gain.setTargetAtTime(0, time, 0.008);
    }

    stop() {
      this.playing = false;
      this.ringing.forEach((gain) => this.hush(gain, this.context.currentTime));
      this.ringing.clear();
    }
  }
  window.arplin.Player = Player;

  document.addEventListener("alpine:init", () => {
    Alpine.data("playbar", () => ({
      score: null, player: null, tempo: 0, playing: false, loading: false, problem: "", title: "",
      context: null, out: null, timer: 0, now: -1, due: [],
      init() {
        this.url = this.$root.dataset.play;
        window.addEventListener("pagehide", () => this.stop());
        document.addEventListener("htmx:afterSettle", () => { if (!this.playing) this.score = null; }); // what was edited sounds as it is now
      },
      // Another step or pattern of the page is put into the bar.
      async hear(url) {
        const same = url === this.url;
        if (same && this.playing) return this.stop();
        this.stop();
        if (!same) [this.url, this.score] = [url, null];
        await this.play();
      },
      toggle() { return this.playing ? this.stop() : this.play(); },
      async play() {
        if (!this.url || this.loading) return;
        this.loading = true;
        this.problem = "";
        try {
          this.context ||= new AudioContext();
          if (!this.out) {
            this.out = this.context.createDynamicsCompressor(); // strums of the whole hand stay under full scale
            this.out.connect(this.context.destination);
          }
          await this.context.resume();
          if (!this.score) {
            const answer = await fetch(this.url);
            if (!answer.ok) throw new Error(answer.status === 422 ? await answer.text() : "");
            this.score = await answer.json();
            this.title = this.score.title;
            this.tempo = this.score.slow;
            this.rule();
          }
          this.player = new Player(this.context, this.score, this.options());
          this.round();
          await this.player.prepare();
          this.player.start();
          this.playing = true;
          this.timer = setInterval(() => this.run(), 25);
          this.run();
        } catch (fault) {
          this.problem = fault.message && !/fetch|^\d+$/.test(fault.message) ? fault.message : "The tones could not be fetched. Try again when the connection is back.";
        }
        this.loading = false;
      },
      options() {
        const on = (name) => this.$root.querySelector(`[name=${name}]`).checked;
        const silent = new Set(["thumb", "fingers", "strum"].filter((by) => !on(by)));
        return { out: this.out, tempo: this.tempo, click: on("click"), countIn: on("countin"), silent, beat: (tick, time) => this.due.push([tick, time]) };
      },
      run() {
        this.player.schedule(this.context.currentTime + ahead);
        while (this.due.length && this.due[0][1] <= this.context.currentTime) this.show(this.due.shift()[0]);
      },
      show(tick) {
        const at = this.score.bars.findLastIndex((bar) => bar.from <= tick);
        if (at === this.now) return;
        this.now = at;
        all(".ruler span", this.$root).forEach((bar, i) => bar.classList.toggle("on", i === at));
      },
      // Bars go round between the ends of a loop, from and to, counted from 0.
      loop: null,
      round() {
        const { bars, beat, ticks } = this.score;
        const [from, to] = this.loop || [0, bars.length - 1];
        const ends = { from: bars[from].from, to: this.loop ? bars[to].from + bars[to].beats * beat : ticks };
        if (this.player) Object.assign(this.player, ends, this.player.playing ? {} : { at: ends.from });
        all(".ruler span", this.$root).forEach((bar, i) => bar.classList.toggle("in", Boolean(this.loop) && from <= i && i <= to));
      },
      setLoop(from, to) {
        if (!this.score) return;
        this.loop = from === null ? null : [Math.min(from, to), Math.max(from, to)];
        this.round();
        this.said = this.loop ? `Bars ${this.loop[0] + 1} to ${this.loop[1] + 1} go round.` : "";
      },
      said: "",
      held: -1,
      barAt(event) { return all(".ruler span", this.$root).indexOf(event.target.closest(".ruler span")); },
      grab(event) { this.held = this.barAt(event); },
      drop(event) {
        const to = this.barAt(event);
        if (this.held >= 0 && to >= 0) this.setLoop(this.held === to && this.loop ? null : this.held, to);
        this.held = -1;
      },
      taps: [],
      tap() {
        const now = performance.now();
        this.taps = [...this.taps.filter((at) => now - at < 6000 && now - (this.taps.at(-1) || 0) < 2500), now].slice(-5);
        if (this.taps.length > 1) this.setTempo(60000 * (this.taps.length - 1) / (now - this.taps[0]));
      },
      half() { this.setTempo(this.tempo / 2); },
      twice() { this.setTempo(this.tempo * 2); },
      rule() {
        this.now = -1;
        this.loop = null;
        this.said = "";
        this.$root.querySelector(".ruler").replaceChildren(...this.score.bars.map((bar) => {
          const el = document.createElement("span");
          el.textContent = bar.chords;
          return el;
        }));
      },
      stop() {
        clearInterval(this.timer);
        this.player?.stop();
        [this.playing, this.due, this.now] = [false, [], -1];
        all(".ruler .on", this.$root).forEach((bar) => bar.classList.remove("on"));
      },
      // The tempo can change while it plays: what is scheduled stays, what comes follows.
      setTempo(to) {
        const tempo = Math.min(300, Math.max(20, Math.round(Number(to)) || this.tempo));
        this.tempo = tempo;
        if (this.player) Object.assign(this.player.options, { tempo });
      },
      typed(event) { this.setTempo(event.target.value); event.target.value = this.tempo; },
      slow() { this.setTempo(this.score.slow); },
      medium() { this.setTempo(this.score.medium); },
      goal() { this.setTempo(this.score.goal); },
      switched() { this.switches++; if (this.player) Object.assign(this.player.options, this.options()); },
      get shown() { return this.score ? this.tempo : ""; },
      get unready() { return !this.score; },
      get label() { return this.playing ? "Stop" : "Play"; },
      // A file of what the bar plays now, as it is switched.
      get along() {
        if (!this.score) return null;
        const on = (name) => this.$root.querySelector(`[name=${name}]`).checked;
        const parts = ["thumb", "fingers", "strum"].filter((by) => !on(by)).map((by) => `&${by}=no`).join("");
        return `${this.url}${this.url.includes("?") ? "&" : "?"}as=wav&tempo=${this.tempo}&click=${on("click") ? "yes" : "no"}&countin=${on("countin") ? "yes" : "no"}${parts}&v=${this.switches}`;
      },
      switches: 0, // so that the address follows them
      get unit() { return this.score ? this.score.unit : ""; },
    }));
  });

  // A tone by itself, to tune to: pressed again it begins again.
  let ear = null;
  async function hearTone(address) {
    ear ||= { context: new AudioContext(), source: null };
    await ear.context.resume();
    const buffer = await load(ear.context, address);
    ear.source?.stop();
    ear.source = ear.context.createBufferSource();
    ear.source.buffer = buffer;
    ear.source.connect(ear.context.destination);
    ear.source.start();
  }
  document.addEventListener("click", (event) => {
    const tone = event.target.closest("[data-tone]");
    if (tone) hearTone(tone.dataset.tone).then(() => { tone.dataset.heard = "yes"; }, () => { tone.title = "The tone could not be fetched."; });
  });

  const barOf = () => {
    const bar = document.querySelector("[data-play]");
    return bar && window.Alpine ? Alpine.$data(bar) : null;
  };
  document.addEventListener("click", (event) => {
    const button = event.target.closest("[data-hear]");
    if (button) barOf()?.hear(button.dataset.hear);
  });
  // Space plays wherever it has no other meaning; [ and ] set the ends of a loop where the
  // playhead is, Escape opens it, t taps the tempo, - and + halve and double it.
  const keys = {
    " ": (bar) => bar.toggle(), t: (bar) => bar.tap(), "-": (bar) => bar.half(), "+": (bar) => bar.twice(), Escape: (bar) => bar.setLoop(null),
    "[": (bar) => bar.setLoop(Math.max(0, bar.now), Math.max(bar.loop?.[1] ?? bar.score?.bars.length - 1, bar.now)),
    "]": (bar) => bar.setLoop(Math.min(bar.loop?.[0] ?? 0, Math.max(0, bar.now)), Math.max(0, bar.now)),
  };
  document.addEventListener("keydown", (event) => {
    const own = event.target.closest(".playbar") && !event.target.closest("input, a") ? "" : "button, summary, a, [tabindex]:not(#main), ";
    if (event.ctrlKey || event.metaKey || event.altKey || !keys[event.key] || event.target.closest(`${own}input, textarea, select`)) return;
    if (event.key === " " && event.target.closest("button")) return; // it presses the button
    const bar = barOf();
    if (!bar) return;
    event.preventDefault();
    keys[event.key](bar);
  });
})();
