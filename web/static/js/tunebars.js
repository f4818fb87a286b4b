// The tune, typed on its strips: one bar has the focus and a place in it the cursor; keys say what
// happens there. The server does it and sends the page back.
import { all } from "./all.js";
import { post, busy, undoKey, rove } from "./app.js";

document.addEventListener("alpine:init", () => {
  const shapes = { ArrowUp: "up", ArrowDown: "down", "+": "longer", "-": "shorter", "~": "tie", "/": "slide", "^": "hammer", Delete: "off", Backspace: "off", r: "off" };

  Alpine.data("tunebars", () => ({
    slot: 0, // of the bar that has the focus
    length: 2, // slots of a note that is put
    put: null, // the bar and the tick of the note that was put last: keys change it until the cursor goes elsewhere
    bars() { return all(".onebar[data-bar]", this.$root); },
    here() { return document.activeElement.closest?.(".onebar[data-bar]"); },
    // A strip says where its slots are: left edge, width of a slot, slots a bar.
    slots(bar) { return bar.querySelector("svg[data-slots]").dataset.slots.split(" ").map(Number); },
    late(bar) { return Number(bar.dataset.late); }, // slots of the count before a pickup
    last(bar) { return this.late(bar) + Number(bar.dataset.ticks) / Number(bar.dataset.slot) - 1; },
    focus() { this.show(); },
    leave() { this.hide(); },
    hide() { all(".notecursor", this.$root).forEach((el) => el.remove()); },
    show() {
      this.hide();
      const bar = this.here();
      if (!bar) return;
      const svg = bar.querySelector("svg[data-slots]");
      const [left, width] = this.slots(bar);
      this.slot = Math.min(Math.max(this.slot, this.late(bar)), this.last(bar));
      const cursor = document.createElementNS("http://www.w3.org/2000/svg", "rect");
      const box = { class: "notecursor", x: left + this.slot * width + 1, y: 1, width: width - 2, height: svg.viewBox.baseVal.height - 2 };
      for (const [name, value] of Object.entries(box)) cursor.setAttribute(name, value);
      svg.append(cursor);
    },
    move(by) {
      const bars = this.bars();
      const at = bars.indexOf(this.here());
      const next = this.slot + by;
      if (next > this.last(bars[at]) && at + 1 < bars.length) {
        this.slot = next - this.last(bars[at]) - 1;
        rove(bars, at + 1);
      } else if (next < this.late(bars[at]) && at > 0) {
        this.slot = 99;
        rove(bars, at - 1);
      } else this.slot = next;
      this.show();
    },
    go(by) {
      this.put = null;
      this.move(by);
    },
    click(event) {
      const bar = event.target.closest(".onebar[data-bar]");
      const svg = event.target.closest("svg[data-slots]");
      if (!bar || !svg) return;
      const [left, width] = this.slots(bar);
      const scale = svg.viewBox.baseVal.width / svg.getBoundingClientRect().width;
      this.put = null;
      this.slot = Math.floor(((event.clientX - svg.getBoundingClientRect().left) * scale - left) / width);
      rove(this.bars(), this.bars().indexOf(bar));
      this.show();
    },
    key(event) {
      const undo = undoKey(event);
      const bar = event.target.closest(".onebar[data-bar]");
      if (undo && !event.target.closest("input, textarea")) this.ask({}, undo);
      else if (!bar || busy(event) || event.ctrlKey || event.metaKey || event.altKey) return;
      else if (event.key === "ArrowRight" || event.key === "ArrowLeft") this.go(event.key === "ArrowRight" ? 1 : -1);
      else if (/^[a-gA-G]$/.test(event.key)) this.note(event.key);
      else if (event.key in shapes) this.change(shapes[event.key], event.shiftKey);
      else return;
      event.preventDefault();
      event.stopPropagation();
    },
    async note(letter) {
      const at = this.cursor();
      if (!(await this.ask({ op: "note", do: "put", text: letter, bar: at.bar, tick: at.tick, ticks: this.length * at.unit }))) return;
      this.put = at;
      this.move(this.length);
    },
    async change(what, octave) {
      if (what === "longer") this.length++;
      if (what === "shorter") this.length = Math.max(1, this.length - 1);
      const at = this.put || this.cursor();
      if (what === "off") this.put = null;
      const step = octave && { up: "octave-up", down: "octave-down" }[what];
      const done = await this.ask({ op: "note", do: step || what, bar: at.bar, tick: at.tick, ticks: at.unit });
      const by = { longer: 1, shorter: -1 }[what];
      if (done && by && this.put) this.move(by); // the next note begins where this one ends
    },
    cursor() {
      const bar = this.here();
      const unit = Number(bar.dataset.slot);
      return { bar: bar.dataset.bar, tick: (this.slot - this.late(bar)) * unit, unit };
    },
    // ask has one thing done; the focus stays where it is.
    async ask(fields, way = "edit") {
      const at = this.bars().indexOf(this.here());
      const done = await post(this.$root, this.$root.dataset[way], fields);
      if (at >= 0) rove(this.bars(), at);
      this.show();
      return done && at >= 0;
    },
  }));
});
