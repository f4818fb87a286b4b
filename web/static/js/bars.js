// The bars of a song, edited by keyboard: one bar has the focus, keys say what
// happens to it. The server does the editing and sends the song back.
import { all } from "./all.js";
import { post, busy, undoKey, rove } from "./app.js";

document.addEventListener("alpine:init", () => {
  const ops = { s: "split", j: "join", i: "insert", Delete: "delete", Backspace: "delete" };

  Alpine.data("bars", () => ({
    bars() { return all(".onebar", this.$root); },
    // As many bars as stand on one line.
    row() {
      const bars = this.bars();
      const below = bars.findIndex((b) => b.offsetTop > bars[0].offsetTop);
      return below > 0 ? below : 1;
    },
    key(event) {
      const bar = event.target.closest(".onebar");
      if (busy(event)) return void (event.key === "Escape" && this.leave(bar));
      const undo = undoKey(event);
      const at = bar ? this.bars().indexOf(bar) : 0;
      const steps = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: this.row(), ArrowUp: -this.row(), Home: -at, End: 9999 };
      if (undo) this.ask(undo, {}, at);
      else if (!bar || event.ctrlKey || event.metaKey || event.altKey) return;
      else if (event.key in steps) rove(this.bars(), at + steps[event.key]);
      else if (event.key === "Enter") this.edit(bar);
      else if (event.key in ops) this.send(bar, { op: ops[event.key] });
      else return;
      event.preventDefault();
    },
    click(event) {
      const go = event.target.closest("[data-go]");
      if (go && go.dataset.go === "leave") return this.leave(go.closest(".onebar"));
      if (go) return this.ask(go.dataset.go, {});
      const bar = event.target.closest(".onebar");
      if (bar && !event.target.closest("form")) this.edit(bar);
    },
    edit(bar) {
      if (bar.querySelector(".bareditor")) return;
      all(".onebar .bareditor", this.$root).forEach((open) => { // what was typed elsewhere is saved, not lost
        const was = open.closest(".onebar").dataset;
        if (open.elements.text.value === was.text && open.elements.words.value === was.words) open.remove();
        else open.requestSubmit();
      });
      const form = this.$root.querySelector("[data-editor]").content.firstElementChild.cloneNode(true);
      for (const name of ["bar", "text", "words"]) form.elements[name].value = bar.dataset[name];
      all("[data-op]", form).forEach((choice) => {
        choice.value = bar.dataset[choice.dataset.op];
        choice.addEventListener("change", () => this.send(bar, { op: choice.dataset.op, text: choice.value }));
      });
      form.addEventListener("htmx:afterRequest", (event) => {
        if (event.detail.successful || event.detail.xhr.status === 409) this.leave(bar);
      });
      bar.querySelector(".chords").after(form);
      htmx.process(form);
      form.elements.text.focus();
      form.elements.text.select();
    },
    leave(bar) {
      if (!bar?.querySelector(".bareditor")) return;
      bar.querySelector(".bareditor").remove();
      if (this.$root.querySelector(".bareditor")) return; // another has the hand
      rove(this.bars(), this.bars().indexOf(bar));
    },
    send(bar, what) {
      return this.ask("edit", { bar: bar.dataset.bar, ...what }, this.bars().indexOf(bar) + (what.op === "insert" ? 1 : 0));
    },
    async ask(way, fields, focus) {
      await post(this.$root, this.$root.dataset[way], fields);
      if (focus !== undefined && !this.$root.querySelector(".bareditor")) rove(this.bars(), focus);
    },
  }));
});
