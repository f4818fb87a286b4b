// A student's day: cards from the week that was planned, played here, answered here.
import { all } from "./all.js";
import { Player, speaker, scoreAt, sentence } from "./player.js";
import { light, slotAt } from "./lit.js";
import { transport } from "./transport.js";
import { outbox } from "./outbox.js";
import { tapTest } from "./taps.js";
import { homeEar } from "./home-ear.js";

const dayMS = 24 * 60 * 60 * 1000;
const midnight = (time) => new Date(time).setHours(0, 0, 0, 0);
const daysBetween = (from, to) => Math.round((midnight(to) - midnight(from)) / dayMS);
const clean = (tempo) => Math.min(300, Math.max(20, Math.round(Number(tempo)) || 0));
const ear = ["js/ear-worker.js", "js/ear-recorder.js", "judge/wasm_exec.js", "judge/judge.wasm"].map((name) => `/static/${name}`); // loaded when it listens
const wait = 4000; // before what was answered is sent: long enough to take it back

document.addEventListener("alpine:init", () => {
  Alpine.data("phone", () => Object.defineProperties({
    ...transport,
    view: "today", sending: "", undo: "", said: "", hurt: false, rest: false, ended: false, playingAt: "", loading: false, click: true,
    entries: [], even: {},
    async init() {
      this.link = this.$root.dataset.link;
      this.week = JSON.parse(this.$root.dataset.week);
      this.turns = new Map();
      this.setClock();
      this.showDay();
      if (!this.$root.querySelector(".daycard.on:not([hidden])")) this.openNext();
      await this.refresh();
      const open = this.$root.querySelector(".daycard.on");
      if (!open || open.hidden || open.classList.contains("answered")) this.openNext();
      this.send();
      addEventListener("online", () => this.send());
      addEventListener("pagehide", () => { this.halt(); this.earTake?.leave(); });
      document.addEventListener("visibilitychange", () => { if (!document.hidden) { this.showDay(); this.send(); } });
      setInterval(() => this.send(), 60000);
      if (document.readyState === "complete") this.keep(); else addEventListener("load", () => this.keep());
    },

    // The server's clock is right: what the phone's says is put right by the moment at which this page came from
    // the net, however long ago.
    setClock() {
      const name = `arplin-clock ${this.link}`;
      let known = null;
      try { known = JSON.parse(localStorage.getItem(name)); } catch { /* nothing was kept */ }
      if (known?.made !== this.week.made) {
        known = { made: this.week.made, here: Date.now() };
        try { localStorage.setItem(name, JSON.stringify(known)); } catch { /* then this page counts */ }
      }
      this.here = known.here; // when it was made, by the phone
      this.ahead = known.here - this.week.made; // by how much the phone is ahead
    },
    get day() { return Math.min(7, Math.max(1, this.week.day + Math.max(0, daysBetween(this.here, Date.now())))); },

    // showDay puts the cards of today in their order.
    showDay() {
      const days = this.week.days.find((d) => d.from <= this.day && this.day <= d.to) || this.week.days.at(-1);
      this.turns = new Map((days?.turns || []).map((turn, i) => [turn.card, { ...turn, number: i + 1 }]));
      all("[data-card]", this.$root).forEach((card) => {
        const turn = this.turns.get(card.dataset.card);
        card.hidden = !turn;
        if (!turn) return;
        card.style.order = turn.number;
        card.querySelector(".number").textContent = turn.number;
        card.querySelector(".minutes").textContent = `${turn.minutes} min`;
        const says = card.querySelector(".turnsays");
        if (says) says.textContent = turn.says;
        const tempo = turn.tempo || Number(card.dataset.goal) || 0;
        card.dataset.tempo = tempo;
        all("[data-part]", card).forEach((button) => {
          const at = clean({ now: tempo, half: tempo / 2, goal: card.dataset.goal }[button.dataset.part]);
          button.dataset.at = at;
          button.hidden = button.dataset.part === "goal" && at === tempo;
          if (button.dataset.part === "now") button.setAttribute("aria-label", `Play at ${at}, today’s tempo`);
          button.querySelector("span").textContent = { now: at, half: "half as fast", goal: `goal, ${at}` }[button.dataset.part];
        });
        const field = card.querySelector("[name=tempo]");
        if (field) field.placeholder = tempo || "";
      });
    },
    get minutes() { return [...this.turns.values()].reduce((sum, turn) => sum + turn.minutes, 0); },
    get headline() { return `Today, ${this.minutes} minutes`; },

    // refresh reads what was answered, here and on another phone.
    async refresh() {
      const { waiting, sent } = await outbox.read(this.link);
      const arrived = this.week.sent.map((entry) => ({ ...entry, at: entry.at + this.ahead, key: entry.card, arrived: true }));
      const seen = new Set(arrived.map((entry) => entry.id));
      this.entries = [...arrived, ...sent.filter((entry) => !seen.has(entry.id)).map((entry) => ({ ...entry, arrived: true })), ...waiting].sort((a, b) => a.at - b.at);
      this.left = waiting.filter((entry) => entry.left);
      this.unsent = waiting.length - this.left.length;
      all("[data-card]", this.$root).forEach((card) => {
        const last = this.today.findLast((entry) => entry.key === card.dataset.card);
        card.classList.toggle("answered", Boolean(last));
        card.querySelector(".answer").textContent = !last ? "" : last.went === "again" ? "tomorrow" : last.went === "hard" ? "too hard" : last.tempo ? `✓ ${last.tempo}` : "✓";
      });
    },
    left: [], unsent: 0,
    get today() { return this.entries.filter((entry) => daysBetween(entry.at, Date.now()) === 0); },
    get practised() { return new Set(this.entries.filter((entry) => entry.went).map((entry) => midnight(entry.at))).size; },
    get daysText() { const n = this.practised; return n === 0 ? "" : n === 1 ? "1 day this week" : `${n} days this week`; },
    get stateText() {
      if (this.ended) return "This link has ended. Ask your teacher for a new one; what you played is kept on this phone.";
      if (this.left.length) return `${this.left.length === 1 ? "One entry wasn’t" : `${this.left.length} entries weren’t`} sent: ${this.left[0].left}`;
      if (this.unsent) return outbox.keeps ? "kept on this phone" : "not sent yet: leave this page open";
      return this.entries.length ? "with your teacher ✓" : "";
    },
    get waitingText() {
      if (!this.unsent && !this.left.length) return "";
      return outbox.keeps ? "It’s kept on this phone and goes to your teacher by itself." : "This browser keeps nothing. Leave the page open until it’s sent.";
    },
    get doneList() {
      return [...this.turns.keys()].map((key) => {
        const last = this.today.findLast((entry) => entry.key === key);
        const card = this.cardOf(key);
        return last && card ? { id: last.id, name: card.dataset.name, says: card.querySelector(".answer").textContent } : null;
      }).filter(Boolean);
    },
    get isDone() { return this.doneList.length > 0; },
    get doneMinutes() { return [...this.turns.values()].filter((turn) => this.today.some((entry) => entry.key === turn.card && entry.went)).reduce((sum, turn) => sum + turn.minutes, 0); },
    get doneHeadline() { return `That was ${this.doneMinutes === 1 ? "1 minute" : `${this.doneMinutes} minutes`}`; },
    cardOf(key) { return all("[data-card]", this.$root).find((card) => card.dataset.card === key); },

    // Cards open one at a time.
    open(event) { this.openCard(event.currentTarget.closest("[data-card]")); },
    openCard(card) {
      const was = card?.classList.contains("on");
      this.halt();
      this.playingAt = "";
      all("[data-card]", this.$root).forEach((other) => {
        const on = other === card && !was;
        other.classList.toggle("on", on);
        other.querySelector(".turnbody").hidden = !on;
        other.querySelector(".turnhead").setAttribute("aria-expanded", String(on));
      });
    },
    openNext() {
      const next = [...this.turns.values()].find((turn) => !this.cardOf(turn.card)?.classList.contains("answered"));
      const card = next && this.cardOf(next.card);
      if (!card) this.openCard(this.$root.querySelector(".daycard.on")); // all is done: what is open closes
      if (card && !card.classList.contains("on")) this.openCard(card);
      return card;
    },

    // hear plays a card's figure at the tempo of a button; the same button stops it.
    async hear(event) {
      const button = event.currentTarget;
      const card = button.closest("[data-card]");
      const name = `${card.dataset.card} ${button.dataset.part}`;
      const same = this.playingAt === name;
      this.halt();
      this.playingAt = "";
      if (same || this.loading) return void this.label();
      this.loading = true;
      this.problem = "";
      try {
        const [{ context, out }, score] = await Promise.all([speaker(), scoreAt(`${this.link}/${card.dataset.score}`)]);
        this.score = score;
        this.scope = card;
        this.lit = "";
        this.playingAt = name;
        this.tempo = Number(button.dataset.at);
        this.began ||= Date.now();
        await this.run(context, { out, tempo: this.tempo, silent: new Set(["chords"]), countIn: true, click: this.click ? "beat" : "" });
      } catch (fault) {
        this.halt();
        this.playingAt = "";
        this.problem = sentence(fault);
      }
      this.loading = false;
      this.label();
    },
    clicked() {
      if (this.player) this.player.options.click = this.click ? "beat" : "";
    },
    ends() {
      this.label();
      if (this.earLoop) this.player?.between(...this.earLoop);
    },
    label() {
      all("[data-part]", this.$root).forEach((button) => {
        const on = this.playing && this.playingAt === `${button.closest("[data-card]").dataset.card} ${button.dataset.part}`;
        button.classList.toggle("playing", on);
        button.setAttribute("aria-pressed", String(on));
      });
    },
    at(tick) {
      const bar = this.score.bars.findLast((b) => b.from <= tick + 1e-6);
      if (!bar) return;
      if (Date.now() - this.began > Number(this.$root.dataset.rest) * 60000) { this.rest = true; this.began = Date.now(); }
      const key = `${bar.from} ${slotAt(this.score, bar, tick)}`;
      if (key === this.lit) return;
      this.lit = key;
      light(this.scope, this.score, bar, tick);
    },
    rested() { this.rest = false; },

    // answer says how a card went.
    async answer(event) {
      const button = event.currentTarget;
      const card = button.closest("[data-card]");
      const { kind, ladder, step, drill } = card.dataset;
      const field = card.querySelector("[name=tempo]");
      const typed = field?.value.trim();
      const went = button.dataset.went;
      if (went === "done" && typed && (!/^\d+$/.test(typed) || clean(typed) !== Number(typed))) {
        this.problem = "Write the tempo as a number from 20 to 300, or leave it empty.";
        return void field.focus();
      }
      const key = card.dataset.card;
      const turn = this.turns.get(key);
      await this.log({
        key, card: kind, ladder: Number(ladder), step: Number(step), drill: Number(drill), went,
        tempo: typed && went === "done" ? Number(typed) : 0, minutes: went === "done" ? turn?.minutes || 0 : 0, even: this.even[key] || 0,
      });
      this.said = went === "hard" ? "Tomorrow it’s slower. Your teacher knows." : went === "again" ? "Tomorrow, then." : "Well done.";
      if (!this.openNext()) this.go("done");
      else if (card.classList.contains("on")) this.openCard(card);
    },
    async word(event) {
      const { word } = event.currentTarget.dataset;
      if (word === "hurts") {
        this.halt();
        this.playingAt = "";
        this.label();
        this.hurt = true;
      }
      await this.log({ key: "", card: "", went: "", word });
      this.said = word === "hurts" ? "" : "Your teacher will read it.";
      if (word === "hurts") this.send();
    },
    unhurt() { this.hurt = false; },
    async log(entry) {
      this.problem = "";
      const id = crypto.randomUUID ? crypto.randomUUID() : `${Date.now()}-${Math.random().toString(36).slice(2)}`;
      await outbox.add({ id, link: this.link, at: Date.now(), ...entry });
      this.undo = id;
      await this.refresh();
      clearTimeout(this.soon);
      this.soon = setTimeout(() => { this.send(); this.said = ""; }, wait);
    },
    async takeBack() {
      const back = await outbox.takeBack(this.undo);
      this.said = back ? "Taken back." : "It’s with your teacher already. Answer the card again; the last answer counts.";
      this.undo = "";
      await this.refresh();
      clearTimeout(this.soon);
      this.soon = setTimeout(() => { this.said = ""; }, wait);
      this.view = "today";
    },
    async send() {
      if (this.busy) return;
      this.busy = true;
      const became = await outbox.send(this.link);
      this.ended = became === "ended";
      await this.refresh();
      if (!this.unsent) this.undo = "";
      this.busy = false;
    },
    go(view) {
      this.halt();
      this.playingAt = "";
      this.label();
      this.view = view;
      scrollTo(0, 0);
    },
    finish() { this.go("done"); },
    back() { this.stopTaps(); this.go("today"); },
    tapFirst(event) {
      const card = event.currentTarget.closest("[data-card]");
      this.go("tap");
      this.openTaps(card);
    },
    get isToday() { return this.view === "today"; },
    get isTap() { return this.view === "tap"; },
    get isOver() { return this.view === "done"; },

    // keep has the worker keep what this week needs: the page, its scores and their tones.
    async keep() {
      if (!navigator.serviceWorker) return;
      try {
        await navigator.serviceWorker.register("/p/worker.js", { scope: "/p/" });
        const { active } = await navigator.serviceWorker.ready;
        const shell = performance.getEntriesByType("resource").map((entry) => entry.name).filter((url) => new URL(url).pathname.startsWith("/static/"));
        const scores = all("[data-card]", this.$root).map((card) => card.dataset.score).filter(Boolean).map((score) => new URL(`${this.link}/${score}`, location).href);
        const list = new Set([location.href.split("#")[0], ...shell, ...scores]);
        navigator.serviceWorker.addEventListener("message", ({ data }) => { if (data?.kept) this.$root.dataset.kept = data.kept; });
        active.postMessage({ keep: [...list] });
        if (navigator.connection?.saveData) return;
        const tones = new Set();
        for (const url of new Set(scores)) {
          const score = await scoreAt(new URL(url).pathname + new URL(url).search);
          new Player(null, score, { tempo: score.goal, click: "beat" }).addresses().forEach((address) => tones.add(new URL(address, location).href));
        }
        active.postMessage({ keep: [...tones, ...ear.map((path) => new URL(path, location).href)] });
      } catch { /* it works with a net */ }
    },
  }, { ...Object.getOwnPropertyDescriptors(tapTest), ...Object.getOwnPropertyDescriptors(homeEar) }));
});
