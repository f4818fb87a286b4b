// Listening in the room: counted in, the class plays on without the click, and the page says whether it held the beat.
import { speaker, sentence } from "./player.js";
import { Take } from "./take.js";

export const roomEar = {
  take: null, taking: false, thinking: false, verdict: "", holds: false,
  async listen() {
    if (this.taking) return this.judge();
    if (this.thinking || !this.score) return;
    this.stop();
    [this.problem, this.verdict] = ["", ""];
    const { bars } = this.score;
    const from = Math.max(0, this.now);
    this.take = new Take(this.score, this.tempo, from, bars.length - 1);
    try {
      await this.take.open();
      const { context, out } = await speaker();
      await this.take.record(context);
      this.awake();
      this.taking = true;
      await this.run(context, { out, tempo: this.tempo, click: "", countIn: true, muted: new Set(this.voices.keys()) }, bars[from].from);
      if (this.taking) this.take.begun(this.player.zero, () => this.judge());
    } catch (fault) {
      this.unheard();
      this.stop();
      this.problem = sentence(fault);
    }
  },
  unheard() {
    this.taking = false;
    this.take?.leave();
  },
  async judge() {
    if (!this.taking) return;
    this.unheard();
    this.stop();
    if (this.take.zero === undefined) return; // ended before its first beat
    this.thinking = true;
    try {
      const { sentence: says, holds } = await this.take.hearRoom();
      [this.verdict, this.holds] = [says, holds];
    } catch (fault) { this.problem = sentence(fault); }
    this.thinking = false;
  },
};
