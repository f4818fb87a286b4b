// Listen, on a student's phone: counted in, a card's figure is played into the microphone, and what was heard is said. Nothing of the
// sound leaves the phone, unless the student sends it to the teacher.
import { speaker, scoreAt, sentence, Told } from "./player.js";
import { Take, alike } from "./take.js";
import { feetOf } from "./feet.js";
import { wav } from "./wav.js";

const round = 4; // bars, which come twice: a phone is held for half a minute, not for two
const silent = new Set(["thumb", "fingers", "strum", "melody", "chords"]);

export const homeEar = {
  earName: "", earTempo: 0, earSays: "", earProblem: "", earState: "", earTake: null, earBars: 0, earLoop: null, earPlayed: 0, earSent: "", earSending: false, earTold: "",
  listenFirst(event) {
    const card = event.currentTarget.closest("[data-card]");
    this.go("ear");
    Object.assign(this, { earCard: card, earName: card.dataset.name, earTempo: Number(card.dataset.tempo), earSays: "", earProblem: "", earTake: null, earSent: "", earTold: "" });
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
    [this.earProblem, this.earSays, this.earSent, this.earTold] = ["", "", "", ""];
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
      this.earPlayed = this.earTake.played(heard);
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
  // Where the teacher takes recordings, a take can be sent, and taken back as long as it is on the page.
  get earSendable() { return Boolean(this.earSays && this.earTake?.samples && !this.earSent && !this.earSending); },
  get earKept() { return this.earTold || "What you play stays on this phone unless you send it, and is gone when you go back."; },
  async sendEar() {
    [this.earSending, this.earProblem, this.earTold] = [true, "", "Sending…"];
    try {
      const uid = crypto.randomUUID();
      const [, ladder, step] = /^score\/(\d+)\/(\d+)/.exec(this.earCard.dataset.score) || [];
      const form = new FormData();
      Object.entries({ uid, ladder: ladder || "", step: step || "", tempo: this.earPlayed, says: this.earSays }).forEach(([name, value]) => form.append(name, value));
      form.append("file", await this.earTake.kept(), "take.wav");
      this.earTold = await this.sendTake("takes", form);
      this.earSent = uid;
    } catch (fault) {
      [this.earProblem, this.earTold] = [sentence(fault), ""];
    }
    this.earSending = false;
  },
  async unsendEar() {
    this.earProblem = "";
    try {
      this.earTold = await this.sendTake("takes/back", new URLSearchParams({ uid: this.earSent }));
      this.earSent = "";
    } catch (fault) {
      this.earProblem = sentence(fault);
    }
  },
  async sendTake(to, body) {
    const answer = await fetch(`${this.link}/${to}`, { method: "POST", body }).catch(() => { throw new Told("There’s no connection. Your take is still here: try again in a moment."); });
    const { says, why } = await answer.json().catch(() => ({}));
    if (!answer.ok) throw new Told(why || "That didn’t work. Try again in a moment.");
    return says;
  },
  backEar() {
    this.stopEar();
    this.earTake = null;
    this.go("today");
  },
  get isEar() { return this.view === "ear"; },
};
