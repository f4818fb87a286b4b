// The bench: keys and buttons go to the server, which knows what they mean. The
// strip is redrawn at once, what lies below when the keys pause. Undo, redo and a
// copied bar are notations kept here.
import { all } from "./all.js";
import { post, undoKey } from "./app.js";

document.addEventListener("alpine:init", () => {
  const pause = 120; // ms without a key before the chords are drawn anew

  Alpine.data("bench", () => ({
    past: [],
    future: [],
    copied: "",
    waiting: 0,
    deep: "",
    body: () => document.getElementById("bench-strip"),
    state() { return this.body().dataset; },
    fields(more) {
      const { notation, bar, slot, stroke } = this.state();
      const value = (name) => this.$root.querySelector(`[name=${name}]`).value;
      return { name: value("name"), own: value("own"), chord: value("chord"), notation, at_bar: bar, at_slot: slot, at_stroke: stroke, ...more };
    },
    async send(more, redo, field) {
      let before;
      const done = await post(this.body(), "/bench", () => {
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
    below() {
      all("[data-chords], details[open] [data-around]", this.$root).forEach((target) => {
        const part = "chords" in target.dataset ? "chords" : "around";
        htmx.ajax("POST", "/bench", { source: target, target, swap: "morph:innerHTML", values: this.fields({ part, deep: this.deep }) });
      });
    },
    opened(event) {
      if (event.target.id === "around") this.below();
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
        return this.take(field);
      }
      const control = event.ctrlKey || event.metaKey;
      const name = undoKey(event) || control && { c: "copy", v: "paste" }[event.key.toLowerCase()];
      if (name) this.way(name);
      else if (control || event.altKey || event.key === "Tab" || (event.key.length > 1 && !/^(Arrow|Home|End|Delete|Backspace)/.test(event.key))) return;
      else this.send({ do: "key", with: event.key });
      event.preventDefault();
    },
    click(event) {
      const { take, key, way } = event.target.closest("[data-take], [data-key], [data-way]")?.dataset || {};
      if (take) this.send({ notation: take });
      else if (key) this.send({ do: "key", with: key });
      else if (way) this.way(way);
      else if (event.target.closest("[data-strip]")) this.point(event);
    },
    // A click on the strip goes to the slot whose count stands nearest.
    point(event) {
      const strip = this.$root.querySelector("[data-strip]");
      const near = all(".count", strip).map((count) => {
        const { left, width } = count.getBoundingClientRect();
        return Math.abs(left + width / 2 - event.clientX);
      });
      const at = near.indexOf(Math.min(...near));
      const { grid } = this.state();
      strip.focus({ preventScroll: true });
      this.send({ do: "at", with: `${Math.floor(at / grid)} ${at % grid}` });
    },
    // What Enter has sent is not sent again when the focus leaves: that would undo
    // what was done in between.
    change({ target: field }) {
      if (field.sent !== field.value) this.take(field);
      delete field.sent;
    },
    take(field) {
      const what = field.dataset.do;
      if (what === "notation") this.send({ notation: field.value, meter: document.getElementById("bench-meter").value }, false, field); // said without its meter
      else if (what === "chord") this.below();
      else if (what) this.send({ do: what, with: field.value }, false, field);
    },
    save(event) {
      if (!event.target.matches("[data-save]")) return;
      event.preventDefault();
      post(this.body(), "/patterns", () => this.fields());
    },
  }));
});
