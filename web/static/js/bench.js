// The bench: the strip has the focus, keys and buttons go to the server, which
// knows what they mean. The strip is redrawn at once; the chords below follow
// when the keys pause. Undo and redo are notations kept here; a copied bar is
// one, too.
document.addEventListener("alpine:init", () => {
  const pause = 120; // ms without a key before the chords are drawn anew
  const { post, say, undoKey } = window.arplin;

  Alpine.data("bench", () => ({
    past: [],
    future: [],
    copied: "",
    waiting: 0,
    deep: "",
    state() {
      return document.getElementById("bench-strip").dataset;
    },
    field(name) {
      return this.$root.querySelector(`[name=${name}]`);
    },
    fields(more) {
      const { notation, bar, slot, stroke } = this.state();
      return { name: this.field("name").value, own: this.field("own").value, chord: this.field("chord").value, notation, at_bar: bar, at_slot: slot, at_stroke: stroke, ...more };
    },
    // Keys are sent one after another, however fast they are pressed.
    async send(more, redo, field) {
      let before;
      const done = await post(document.getElementById("bench-strip"), "/bench", () => {
        before = this.state().notation;
        return this.fields(more);
      }, field ? [field] : []);
      if (!done || this.state().notation === before) return;
      if (!redo) {
        this.past.push(before);
        this.future.length = 0;
      }
      clearTimeout(this.waiting);
      this.waiting = setTimeout(() => this.below(), pause);
    },
    // What follows when the keys pause: the chords, and what lies around when it is open.
    below() {
      const part = (name, target) => htmx.ajax("POST", "/bench", { source: target, target, swap: "innerHTML", values: this.fields({ part: name, deep: this.deep }) });
      part("chords", this.$root.querySelector("[data-chords]"));
      const around = this.$root.querySelector("[data-around]");
      if (around.closest("details").open) part("around", around);
    },
    opened(event) {
      if (event.target.id === "around" && event.target.open) this.below();
    },
    go(from, to) {
      if (!from.length) return;
      to.push(this.state().notation);
      this.send({ notation: from.pop() }, true);
    },
    way(name) {
      const { notation, bar } = this.state();
      const [head, body] = notation.split(":");
      if (name === "undo") this.go(this.past, this.future);
      else if (name === "redo") this.go(this.future, this.past);
      else if (name === "swing") this.send({ do: "swing" });
      else if (name === "copy") this.copied = head + ":" + body.split("|")[Number(bar)];
      else if (name === "paste" && this.copied) this.send({ do: "bar", with: this.copied });
      else if (name === "deep" || name === "near") {
        this.deep = name === "deep" ? "yes" : "";
        this.below();
      }
    },
    key(event) {
      const field = event.target;
      if (!field.closest("[data-strip]")) {
        if (event.key !== "Enter" || !field.dataset.do) return;
        event.preventDefault();
        field.sent = field.value;
        this.take(field);
        return;
      }
      const name = undoKey(event) || (event.ctrlKey || event.metaKey) && { c: "copy", v: "paste" }[event.key.toLowerCase()];
      if (name) this.way(name);
      else if (event.ctrlKey || event.metaKey || event.altKey || event.key === "Tab" || (event.key.length > 1 && !/^(Arrow|Home|End|Delete|Backspace)/.test(event.key))) return;
      else this.send({ do: "key", with: event.key });
      event.preventDefault();
    },
    click(event) {
      const taken = event.target.closest("[data-take]");
      if (taken) return this.send({ notation: taken.dataset.take });
      const button = event.target.closest("[data-key], [data-way]");
      if (button && button.dataset.key) this.send({ do: "key", with: button.dataset.key });
      else if (button) this.way(button.dataset.way);
      else if (event.target.closest("[data-strip]")) this.point(event);
    },
    // A click on the strip goes to the slot whose count stands nearest.
    point(event) {
      const strip = this.$root.querySelector("[data-strip]");
      const near = Array.from(strip.querySelectorAll(".count")).map((count) => {
        const box = count.getBoundingClientRect();
        return Math.abs(box.left + box.width / 2 - event.clientX);
      });
      const at = near.indexOf(Math.min(...near));
      const grid = Number(this.state().grid);
      strip.focus({ preventScroll: true });
      this.send({ do: "at", with: `${Math.floor(at / grid)} ${at % grid}` });
    },
    // A field that Enter has sent is not sent again when the focus leaves it:
    // that would undo what was done in between.
    change(event) {
      const field = event.target;
      const again = field.sent === field.value;
      delete field.sent;
      if (!again) this.take(field);
    },
    take(field) {
      const what = field.dataset.do;
      if (what === "notation") this.send({ notation: field.value }, false, field);
      else if (what === "chord") this.below();
      else if (what) this.send({ do: what, with: field.value }, false, field);
    },
    save(event) {
      if (!event.target.matches("[data-save]")) return;
      event.preventDefault();
      say(event.target, "");
      post(document.getElementById("bench-strip"), "/patterns", () => this.fields());
    },
  }));
});
