// The bench: the strip has the focus, keys and buttons go to the server, which
// knows what they mean. Of what comes back only the parts that a key can change
// are put in place, so that the strip is redrawn at once; the chords below
// follow when the keys pause. Undo and redo are notations kept here; a copied
// bar is one, too.
document.addEventListener("alpine:init", () => {
  const pause = 120; // ms without a key before the chords are drawn anew

  Alpine.data("bench", () => ({
    past: [],
    future: [],
    copied: "",
    waiting: 0,
    chain: Promise.resolve(),
    strip() {
      return this.$root.querySelector("[data-strip]");
    },
    problem() {
      return this.$root.querySelector("[data-problem]");
    },
    // What is on the page, typed but not yet sent included.
    fields(more) {
      const root = this.$root;
      const value = (name) => root.querySelector(`[name=${name}]`).value;
      return new URLSearchParams({
        _csrf: document.querySelector("meta[name=csrf]").content, name: value("name"), own: value("own"), version: value("version"),
        chord: value("chord"), notation: root.dataset.notation,
        at_bar: root.dataset.bar, at_slot: root.dataset.slot, at_stroke: root.dataset.stroke, ...more,
      });
    },
    // Keys are sent one after another, however fast they are pressed.
    send(more, redo) {
      this.chain = this.chain.then(() => this.sendNow(more, redo));
      return this.chain;
    },
    async sendNow(more, redo) {
      const before = this.$root.dataset.notation;
      const piece = await window.arplin.ask("/bench", this.fields({ part: "strip", ...more }), this.problem());
      if (!piece) return;
      this.show(piece);
      if (this.$root.dataset.notation !== before) {
        if (!redo) {
          this.past.push(before);
          this.future.length = 0;
        }
        this.chordsLater();
      }
      this.strip().focus({ preventScroll: true });
    },
    show(piece) {
      const root = this.$root;
      Object.assign(root.dataset, piece.dataset);
      this.strip().setAttribute("aria-label", piece.querySelector("[data-strip]").getAttribute("aria-label"));
      piece.querySelectorAll("[data-part]").forEach((fresh) => {
        const old = root.querySelector(`[data-part=${fresh.dataset.part}]`);
        if (old) old.replaceWith(fresh);
      });
    },
    chordsLater() {
      clearTimeout(this.waiting);
      this.waiting = setTimeout(() => this.chords(), pause);
    },
    async chords() {
      const notation = this.$root.dataset.notation;
      const problem = this.problem();
      const said = { textContent: "" };
      const fresh = await window.arplin.ask("/bench", this.fields({ part: "chords" }), said);
      // The chords come later and by themselves: a sentence about something else stays.
      if (said.textContent || problem.dataset.about === "chord") {
        problem.textContent = said.textContent;
        problem.dataset.about = said.textContent && "chord";
      }
      if (fresh && this.$root.dataset.notation === notation) this.$root.querySelector(".onchords").replaceWith(fresh);
    },
    go(from, to) {
      if (!from.length) return;
      to.push(this.$root.dataset.notation);
      this.send({ notation: from.pop() }, true);
    },
    way(name) {
      if (name === "undo") this.go(this.past, this.future);
      else if (name === "redo") this.go(this.future, this.past);
      else if (name === "swing") this.send({ do: "swing" });
      else if (name === "deep") this.send({ deep: "yes" });
      else if (name === "near") this.send({});
      else if (name === "copy") {
        const [head, body] = this.$root.dataset.notation.split(":");
        this.copied = head + ":" + body.split("|")[Number(this.$root.dataset.bar)];
      } else if (name === "paste" && this.copied) this.send({ do: "bar", with: this.copied });
    },
    key(event) {
      if (!event.target.closest("[data-strip]")) {
        if (event.key === "Enter" && event.target.dataset.do) {
          event.preventDefault();
          event.target.sent = event.target.value;
          this.take(event.target);
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
      this.send({ do: "key", with: event.key });
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
      const near = Array.from(this.strip().querySelectorAll(".count")).map((count) => {
        const box = count.getBoundingClientRect();
        return Math.abs(box.left + box.width / 2 - event.clientX);
      });
      const at = near.indexOf(Math.min(...near));
      const grid = Number(this.$root.dataset.grid);
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
      if (what === "notation") this.send({ notation: field.value });
      else if (what === "chord") this.chordsLater();
      else if (what) this.send({ do: what, with: field.value });
    },
    async save(event) {
      if (!event.target.matches("[data-save]")) return;
      event.preventDefault();
      await window.arplin.send("/patterns", this.fields({}), this.$root, this.problem());
    },
  }));
});
