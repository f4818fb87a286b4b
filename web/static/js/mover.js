// The staircase: a student's name moves up and down with the arrow keys, or is
// dragged to a step.
document.addEventListener("alpine:init", () => {
  const type = "application/x-arplin-student";

  Alpine.data("mover", () => ({
    busy: false,
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
      const to = Math.min(Math.max(Number(chip.dataset.at) + by, -1), Number(this.$root.dataset.top) - 1);
      if (to !== Number(chip.dataset.at)) this.place(chip.dataset.student, to);
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
      this.place(student, Number(step.dataset.step));
    },
    async place(student, step) {
      if (this.busy) return;
      this.busy = true;
      const root = this.$root;
      const fields = new URLSearchParams({ student, step, _csrf: document.querySelector("meta[name=csrf]").content });
      const url = root.dataset.place + "?instrument=" + encodeURIComponent(root.dataset.instrument);
      await window.arplin.send(url, fields, root, root.querySelector("[data-problem]"));
      this.busy = false;
    },
  }));
});
