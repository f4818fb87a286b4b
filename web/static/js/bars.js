// The bars of a song, edited by keyboard: one bar has the focus, keys say what
// happens to it. The server does the editing and sends the song back.
document.addEventListener("alpine:init", () => {
  const ops = { s: "split", j: "join", i: "insert", Delete: "delete", Backspace: "delete" };

  Alpine.data("bars", () => ({
    all() {
      return Array.from(this.$root.querySelectorAll(".onebar"));
    },
    focusBar(at) {
      const bars = this.all();
      const bar = bars[Math.min(Math.max(at, 0), bars.length - 1)];
      if (!bar) return;
      bars.forEach((b) => { b.tabIndex = b === bar ? 0 : -1; });
      bar.focus();
    },
    // A row is as many bars as stand on one line at this width.
    row() {
      const bars = this.all();
      const below = bars.findIndex((b) => b.offsetTop > bars[0].offsetTop);
      return below > 0 ? below : 1;
    },
    key(event) {
      if (event.target.closest("form, details, .panel")) {
        if (event.key === "Escape") this.leave(event.target.closest(".onebar"));
        return;
      }
      if ((event.ctrlKey || event.metaKey) && !event.altKey && "zy".includes(event.key.toLowerCase())) {
        event.preventDefault();
        const again = event.key.toLowerCase() === "y" || event.shiftKey;
        this.go(again ? "redo" : "undo", event.target.closest(".onebar"));
        return;
      }
      const bar = event.target.closest(".onebar");
      if (!bar || event.ctrlKey || event.metaKey || event.altKey) return;
      const at = this.all().indexOf(bar);
      const steps = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: this.row(), ArrowUp: -this.row(), Home: -at, End: 9999 };
      if (event.key in steps) this.focusBar(at + steps[event.key]);
      else if (event.key === "Enter") this.edit(bar);
      else if (event.key in ops) this.send(bar, { op: ops[event.key] });
      else return;
      event.preventDefault();
    },
    click(event) {
      const go = event.target.closest("[data-go]");
      if (go && go.dataset.go === "leave") return this.leave(go.closest(".onebar"));
      if (go) return this.go(go.dataset.go, null);
      const bar = event.target.closest(".onebar");
      if (bar && !event.target.closest("form")) this.edit(bar);
    },
    edit(bar) {
      if (bar.querySelector(".bareditor")) return;
      const open = this.$root.querySelector(".onebar .bareditor");
      if (open) open.remove();
      const form = this.$root.querySelector("[data-editor]").content.firstElementChild.cloneNode(true);
      form.elements.section.value = bar.dataset.section;
      form.elements.bar.value = bar.dataset.bar;
      form.elements.text.value = bar.dataset.text;
      form.elements.words.value = bar.dataset.words;
      form.querySelectorAll("[data-op]").forEach((choice) => {
        choice.value = bar.dataset[choice.dataset.op];
        choice.addEventListener("change", () => this.send(bar, { op: choice.dataset.op, text: choice.value }));
      });
      bar.querySelector(".chords").after(form);
      form.elements.text.focus();
      form.elements.text.select();
    },
    leave(bar) {
      const form = bar && bar.querySelector(".bareditor");
      if (!form) return;
      form.remove();
      bar.focus();
    },
    // A saved bar keeps the focus: the song that comes back is a new element.
    sending(event) {
      const bar = event.target.closest(".onebar");
      window.arplin.focusNext = bar ? this.all().indexOf(bar) : null;
    },
    init() {
      if (window.arplin.focusNext == null) return;
      this.focusBar(window.arplin.focusNext);
      window.arplin.focusNext = null;
    },
    send(bar, what) {
      const place = { section: bar.dataset.section, bar: bar.dataset.bar };
      return this.ask("edit", { ...place, ...what }, this.all().indexOf(bar) + (what.op === "insert" ? 1 : 0));
    },
    go(way, bar) {
      return this.ask(way, {}, bar ? this.all().indexOf(bar) : null);
    },
    // Each thing is done on the song that the one before it left.
    ask(way, fields, focus) {
      return window.arplin.inTurn(async () => {
        const root = document.getElementById("song");
        const csrf = document.querySelector("meta[name=csrf]").content;
        window.arplin.focusNext = focus;
        const all = new URLSearchParams({ _csrf: csrf, version: root.dataset.version, ...fields });
        await window.arplin.send(root.dataset[way], all, root, root.querySelector("[data-problem]"));
      });
    },
  }));
});
