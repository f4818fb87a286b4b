// The staircase: a student's name moves up and down with the arrow keys, or is
// dragged to a step; a step in focus has keys of its own, and one menu.
import { all, post, busy, undoKey, rove } from "./app.js";

document.addEventListener("alpine:init", () => {
  const ops = { p: "pin", s: "split", j: "join", Delete: "drop" };

  Alpine.data("stairs", () => ({
    steps() { return all(".step", this.$root).filter((step) => step.offsetParent); },
    ask(way, fields) {
      return post(this.$root, `${this.$root.dataset.at}/${way}?${this.$root.dataset.query}`, fields);
    },
    key(event) {
      const undo = undoKey(event);
      const chip = event.target.closest(".chip");
      if (busy(event) && !chip) return;
      const step = event.target.closest(".step");
      const by = { ArrowUp: 1, ArrowDown: -1 }[event.key];
      if (undo) this.ask(undo, {});
      else if (event.ctrlKey || event.metaKey) return;
      else if (chip && by) this.place(chip.dataset.student, by);
      else if (event.target !== step || !step) return;
      else if (by && event.altKey) this.edit(step, by > 0 ? "raise" : "lower");
      else if (by) rove(this.steps(), this.steps().indexOf(step) - by);
      else if (event.key === "Enter") bootstrap.Dropdown.getOrCreateInstance(step.querySelector("[data-bs-toggle]")).toggle();
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
      const step = event.target.closest("[data-step]");
      all(".over", this.$root).forEach((el) => el.classList.remove("over"));
      if (!step || !this.held) return;
      event.preventDefault();
      step.classList.add("over");
    },
    drop(event) {
      event.preventDefault();
      this.place(this.held, 0, event.target.closest("[data-step]").dataset.step);
      this.held = null;
    },
    // Where a name goes is found when its turn comes, from where it stands then.
    place(student, by, to) {
      return this.ask("place", () => {
        const [waiting, ...stairs] = all("[data-step]", this.$root).map((el) => el.dataset.step);
        stairs.push(waiting); // below the easiest
        const at = stairs.indexOf(document.getElementById("chip-" + student).closest("[data-step]").dataset.step);
        const step = to || stairs[Math.min(Math.max(at - by, 0), stairs.length - 1)];
        return step === stairs[at] ? null : { place: `${student} ${step}` };
      });
    },
  }));
});
