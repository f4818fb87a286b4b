// The staircase: a student's name moves up and down with the arrow keys, or is
// dragged to a step.
document.addEventListener("alpine:init", () => {
  const type = "application/x-arplin-student";

  Alpine.data("mover", () => ({
    init() {
      const focus = Number(this.$root.dataset.focus);
      const chip = focus && this.$root.querySelector(`[data-student="${focus}"]`);
      if (chip) chip.focus();
    },
    key(event) {
      const chip = event.target.closest(".chip");
      const by = { ArrowUp: 1, ArrowDown: -1 }[event.key];
      if (!chip || !by) return;
      event.preventDefault();
      this.place(chip.dataset.student, (at) => at + by);
    },
    grab(event) {
      const chip = event.target.closest(".chip");
      if (chip) event.dataTransfer.setData(type, chip.dataset.student);
    },
    over(event) {
      const step = event.target.closest("[data-step]");
      this.$root.querySelectorAll(".over").forEach((el) => el.classList.remove("over"));
      if (!step || !event.dataTransfer.types.includes(type)) return;
      event.preventDefault();
      step.classList.add("over");
    },
    drop(event) {
      const step = event.target.closest("[data-step]");
      const student = event.dataTransfer.getData(type);
      if (!step || !student) return;
      event.preventDefault();
      const to = Number(step.dataset.step);
      this.place(student, () => to);
    },
    // Where a name goes is found when its turn comes, from where it stands then.
    place(student, where) {
      return window.arplin.inTurn(async () => {
        const root = document.getElementById("stairs");
        const at = Number(root.querySelector(`[data-student="${student}"]`).dataset.at);
        const step = Math.min(Math.max(where(at), -1), Number(root.dataset.top) - 1);
        if (step === at) return;
        const fields = new URLSearchParams({ student, step, _csrf: document.querySelector("meta[name=csrf]").content });
        const url = root.dataset.place + "?instrument=" + encodeURIComponent(root.dataset.instrument);
        await window.arplin.send(url, fields, root, root.querySelector("[data-problem]"));
      });
    },
  }));
});
