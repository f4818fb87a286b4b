// The transport: what starts, goes on, stops, and how fast, the same under a figure and in the
// room. Who takes it says what is played (play), what a moment shows (at), and where it goes
// round (ends).
import { Player } from "./player.js";
import { dark } from "./lit.js";

const ahead = () => (document.hidden ? 1.3 : 0.2); // seconds; a page in the back is woken once a second

export const transport = {
  player: null, score: null, playing: false, tempo: 0, problem: "", timer: 0,
  toggle() { return this.playing ? this.stop() : this.play(); },
  // run plays the score, from a tick where one is said.
  async run(context, options, from) {
    this.context = context;
    this.player = new Player(context, this.score, options);
    this.ends();
    if (from !== undefined) this.player.at = from;
    const begun = this.player.begin();
    this.timer = setInterval(() => this.player.schedule(context.currentTime + ahead()), 25);
    this.playing = true;
    this.frame();
    await begun;
  },
  // frame shows the moment that is heard now, once a picture.
  frame() {
    if (!this.playing) return;
    requestAnimationFrame(() => this.frame());
    const tick = this.player.position(this.context.currentTime - (this.context.outputLatency || 0));
    if (tick !== null) this.at(tick);
  },
  halt() {
    clearInterval(this.timer);
    this.player?.stop();
    this.playing = false;
    dark();
  },
  // The tempo can change while it plays: what is scheduled stays, what comes follows.
  setTempo(to) {
    this.tempo = Math.min(300, Math.max(20, Math.round(Number(to)) || this.tempo));
    if (this.player) this.player.options.tempo = this.tempo;
  },
  slow() { this.setTempo(this.score?.slow); },
  medium() { this.setTempo(this.score?.medium); },
  goal() { this.setTempo(this.score?.goal); },
};
