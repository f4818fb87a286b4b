// Listen, on a student's phone: counted in, a card's figure is played into the microphone, and what was heard is said. Nothing of the
// sound leaves the phone.
import { speaker, scoreAt, sentence } from "./player.js";
import { Take, alike } from "./take.js";
import { feetOf } from "./feet.js";
import { wav } from "./wav.js";

const round = 4; // bars, which come twice: a phone is held for half a minute, not for two
const silent = new Set(["thumb", "fingers", "strum", "melody", "chords"]);

export const homeEar = {
  earName: "", earTempo: 0, earSays: "", earProblem: "", earState: "", earTake: null, earBars: 0, earLoop: null,
  listenFirst(event) {
    const card = event.currentTarget.closest("[data-card]");
    this.go("ear");
    Object.assign(this, { earCard: card, earName: card.dataset.name, earTempo: Number(card.dataset.tempo), earSays: "", earProblem: "", earTake: null });
    this.$root.querySelector(".homefeet").replaceChildren();
  },
  get earIntro() {
    if (this.earState === "hears") return `Play ${this.earBars} bars.`;
    if (this.earState === "thinks") return "Listening to it again…";
    return `At ${this.earTempo}, counted in. Then you play alone, near the phone.`;
  },
  get earIdle() { return !this.earState; },
  get earHears() { return this.earState === "hears"; },
  get earStart() { return this.earSays ? "Once more" : "Start"; },
  get earSlower() { return `Slower, ${Math.max(20, this.earTempo - 8)}`; },
  async slowerEar() {
    this.earTempo = Math.max(20, this.earTempo - 8);
    await this.startEar();
  },
  async startEar() {
    this.stopEar();
    [this.earProblem, this.earSays] = ["", ""];
    this.$root.querySelector(".homefeet").replaceChildren();
    try {
      const [{ context, out }, score] = await Promise.all([speaker(), scoreAt(`${this.link}/${this.earCard.dataset.score}`)]);
      const [from, to] = alike(score, round);
      const take = new Take(score, this.earTempo, from, to);
      this.earTake = take;
      this.earBars = take.bars;
      await take.open();
      await take.record(context);
      Object.assign(this, { score, scope: this.earCard, lit: "", tempo: this.earTempo });
      this.began ||= Date.now();
      this.earLoop = [score.bars[from].from, score.bars[to + 1]?.from ?? score.ticks];
      await this.run(context, { out, tempo: this.earTempo, silent, countIn: true, click: "" });
      this.earState = "hears";
      take.begun(this.player.zero, () => this.finishEar());
    } catch (fault) {
      this.stopEar();
      this.earProblem = sentence(fault);
    }
  },
  async finishEar() {
    if (this.earState !== "hears") return;
    this.halt();
    this.earTake.leave();
    [this.earState, this.earLoop] = ["thinks", null];
    try {
      const heard = await this.earTake.hear();
      this.earSays = heard.sentence;
      this.$root.querySelector(".homefeet").replaceChildren(...feetOf(heard, this.earTake.score.bars[this.earTake.from].beats));
      this.$root.dataset.heard = JSON.stringify(heard);
    } catch (fault) {
      this.earProblem = sentence(fault);
    }
    this.earState = "";
  },
  // A take that is broken off is gone.
  stopEar() {
    this.earAudio?.pause();
    this.halt();
    this.earTake?.leave();
    [this.earState, this.earLoop] = ["", null];
  },
  mineEar() {
    this.earAudio?.pause();
    if (this.earAudio) URL.revokeObjectURL(this.earAudio.src);
    this.earAudio = new Audio(URL.createObjectURL(wav(this.earTake.samples, this.earTake.rate)));
    this.earAudio.play().catch(() => { this.earProblem = "The take couldn’t be played here."; });
  },
  backEar() {
    this.stopEar();
    this.earTake = null;
    this.go("today");
  },
  get isEar() { return this.view === "ear"; },
};
