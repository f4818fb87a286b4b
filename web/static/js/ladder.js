// The ladder: the step in focus opens beside its staircase (under its row on a phone); a
// student's name moves up and down with the arrow keys, or is dragged to a step, here and on the desk.
import { all } from "./all.js";
import { post, busy, undoKey, rove } from "./app.js";

const narrow = matchMedia("(max-width: 60rem)");

document.addEventListener("alpine:init", () => {
  const ops = { p: "pin", s: "split", j: "join", Delete: "drop" };

  Alpine.data("stairs", () => ({
    init() {
      this.settle();
      narrow.addEventListener("change", () => this.settle());
      document.addEventListener("htmx:afterSettle", () => this.settle());
    },
    steps() { return all(".step", this.$root); },
    get side() { return document.getElementById("ladder-side"); },
    // The open step stands beside the staircase, or under its row where there is no room.
    settle() {
      if (!this.side) return; // the desk
      const row = narrow.matches && this.$root.querySelector(".step[aria-current]");
      const place = row || this.$root.querySelector(".ladderboard");
      if (this.side.parentElement !== place) place.append(this.side);
    },
    open(step) {
      if (step.hasAttribute("aria-current")) return;
      this.steps().forEach((el) => el.toggleAttribute("aria-current", el === step));
      step.setAttribute("aria-current", "step");
      const { at, instrument } = this.$root.dataset;
      this.$root.dataset.query = `instrument=${instrument}&open=${step.dataset.step}`;
      history.replaceState(null, "", `?${this.$root.dataset.query}`);
      this.settle();
      this.opening = htmx.ajax("GET", `${at}/step/${step.dataset.step}?instrument=${instrument}`, { source: this.side, target: this.side, swap: "innerHTML" });
    },
    opening: null,
    // The menu is that of the step in focus: it waits until that one is open.
    async menu() {
      await this.opening;
      bootstrap.Dropdown.getOrCreateInstance(document.getElementById("edit-step")).toggle();
    },
    focus(event) {
      if (event.target.matches(".step")) this.open(event.target);
    },
    ask(way, fields) {
      return post(this.$root, `${this.$root.dataset.at}/${way}?${this.$root.dataset.query}`, fields);
    },
    key(event) {
      const undo = undoKey(event);
      const chip = event.target.closest(".chip");
      if (busy(event) && !chip) return;
      const step = event.target.closest(".step");
      const by = { ArrowUp: 1, ArrowDown: -1, ...(chip?.closest(".column") && { ArrowRight: 1, ArrowLeft: -1 }) }[event.key];
      if (undo) return void (this.side && (event.preventDefault(), this.ask(undo, {}))); // the desk’s notice has its own
      else if (event.ctrlKey || event.metaKey) return;
      else if (chip && by) this.place(chip.dataset.student, by);
      else if (event.target !== step || !step) return;
      else if (by && event.altKey) this.edit(step, by > 0 ? "raise" : "lower");
      else if (by) rove(this.steps(), this.steps().indexOf(step) - by);
      else if (event.key === "Enter") this.menu();
      else if (event.key in ops) this.edit(step, ops[event.key]);
      else return;
      event.preventDefault();
    },
    async edit(step, op) {
      const at = this.steps().indexOf(step);
      await this.ask("edit", { op, step: step.dataset.step });
      rove(this.steps(), step.isConnected ? this.steps().indexOf(step) : at);
    },
    click(event) {
      const go = event.target.closest("[data-go]");
      if (go) this.ask(go.dataset.go, {});
      const row = event.target.closest(".step");
      if (row && !event.target.closest(".ladderside, .chip, input")) {
        event.preventDefault();
        rove(this.steps(), this.steps().indexOf(row));
      }
      const form = document.getElementById(event.target.dataset.write);
      if (!form) return;
      form.hidden = false;
      form.elements.text.focus();
    },
    held: null,
    grab(event) {
      this.held = event.target.closest(".chip")?.dataset.student;
      event.dataTransfer.setData("text", "");
    },
    over(event) {
      const step = event.target.closest(".step, .waiting, .column");
      all(".over", this.$root).forEach((el) => el.classList.remove("over"));
      if (!step || !this.held) return;
      event.preventDefault();
      step.classList.add("over");
    },
    drop(event) {
      event.preventDefault();
      const to = event.target.closest(".step, .waiting, .column");
      if (to) this.place(this.held, 0, to.dataset.step);
      this.held = null;
    },
    // Where a name goes is found when its turn comes, from where it stands then.
    place(student, by, to) {
      return this.ask("place", () => {
        const stairs = all(".step, .waiting", this.$root).concat(all(".column", this.$root).reverse()).map((el) => el.dataset.step); // who waits stands below the easiest
        const at = stairs.indexOf(document.getElementById("chip-" + student).closest("[data-step]").dataset.step);
        const step = to || stairs[Math.min(Math.max(at - by, 0), stairs.length - 1)];
        return step === stairs[at] ? null : { place: `${student} ${step}` };
      });
    },
  }));
});
