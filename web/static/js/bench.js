// The bench: the strip has the focus, keys and buttons go to the server, which
// knows what they mean; the bench that comes back takes this one's place. Undo
// and redo are notations kept here; a copied bar is one, too.
document.addEventListener("alpine:init", () => {
  const past = [];
  const future = [];
  let copied = "";

  Alpine.data("bench", () => ({
    init() {
      if (window.arplin.benchFocus === "strip") this.strip().focus({ preventScroll: true });
      window.arplin.benchFocus = null;
    },
    strip() {
      return this.$root.querySelector("[data-strip]");
    },
    // What is on the page, typed but not yet sent included.
    fields(more) {
      const root = this.$root;
      return new URLSearchParams({
        _csrf: document.querySelector("meta[name=csrf]").content,
        name: root.querySelector("[name=name]").value, own: root.querySelector("[name=own]").value, version: root.querySelector("[name=version]").value,
        chord: root.querySelector("[name=chord]").value, notation: root.dataset.notation,
        at_bar: root.dataset.bar, at_slot: root.dataset.slot, at_stroke: root.dataset.stroke, ...more,
      });
    },
    async send(more, focus) {
      if (this.$root.dataset.busy) return null;
      this.$root.dataset.busy = "yes";
      const before = this.$root.dataset.notation;
      const root = this.$root;
      window.arplin.benchFocus = focus;
      const piece = await window.arplin.send("/bench", this.fields(more), root, root.querySelector("[data-problem]"));
      delete root.dataset.busy;
      if (piece && piece.dataset.notation !== before && !more.quiet) {
        past.push(before);
        future.length = 0;
      }
      return piece;
    },
    go(from, to) {
      if (!from.length) return;
      to.push(this.$root.dataset.notation);
      this.send({ notation: from.pop(), quiet: "yes" }, "strip");
    },
    way(name) {
      if (name === "undo") this.go(past, future);
      else if (name === "redo") this.go(future, past);
      else if (name === "swing") this.send({ do: "swing" }, "strip");
      else if (name === "copy") {
        const [head, body] = this.$root.dataset.notation.split(":");
        copied = head + ":" + body.split("|")[Number(this.$root.dataset.bar)];
      } else if (name === "paste" && copied) this.send({ do: "bar", with: copied }, "strip");
    },
    key(event) {
      if (!event.target.closest("[data-strip]")) {
        if (event.key === "Enter" && event.target.dataset.do) {
          event.preventDefault();
          this.change(event);
        }
        return;
      }
      const control = { z: event.shiftKey ? "redo" : "undo", y: "redo", c: "copy", v: "paste" };
      if (event.ctrlKey || event.metaKey) {
        const name = control[event.key.toLowerCase()];
        if (!name) return;
        event.preventDefault();
        this.way(name);
        return;
      }
      if (event.altKey || event.key === "Tab" || (event.key.length > 1 && !/^(Arrow|Home|End|Delete|Backspace)/.test(event.key))) return;
      event.preventDefault();
      this.send({ do: "key", with: event.key }, "strip");
    },
    click(event) {
      const button = event.target.closest("[data-key], [data-way]");
      if (button && button.dataset.key) this.send({ do: "key", with: button.dataset.key }, "strip");
      else if (button) this.way(button.dataset.way);
      else if (event.target.closest("[data-strip]")) this.point(event);
    },
    // A click on the strip goes to the slot under it: the picture is as wide as
    // its slots, bars have one grid.
    point(event) {
      const counts = Array.from(this.strip().querySelectorAll(".count"));
      const near = counts.map((c) => {
        const box = c.getBoundingClientRect();
        return Math.abs(box.left + box.width / 2 - event.clientX);
      });
      const at = near.indexOf(Math.min(...near));
      const grid = Number(this.$root.dataset.grid);
      this.send({ do: "at", with: `${Math.floor(at / grid)} ${at % grid}` }, "strip");
    },
    change(event) {
      const field = event.target;
      const what = field.dataset.do;
      if (!what) return;
      if (what === "notation") this.send({ notation: field.value }, "strip");
      else if (what === "chord") this.send({}, null);
      else this.send({ do: what, with: field.value }, "strip");
    },
    async save(event) {
      if (!event.target.matches("[data-save]")) return;
      event.preventDefault();
      const root = this.$root;
      await window.arplin.send("/patterns", this.fields({}), root, root.querySelector("[data-problem]"));
    },
  }));
});
