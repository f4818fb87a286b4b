// A second opinion of the ear: what it says which string was hit, and a kept library of pitches (McLeod and Wyvill, "A Smarter
// Way to Find Pitch", ICMC 2005) on the same files.
import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { PitchDetector } from "pitchy";
import { Note } from "tonal";
import { test, expect } from "@playwright/test";

const window = 8192; // samples, long enough for the lowest string
const settled = 0.06; // seconds after a stroke: its noise is over
const tempo = 70;
const bars = 12;
const asked = ["--pattern", "4/4: p . . .", "--chords", "C | Am | F | G7", "--tempo", String(tempo)];

// The pitch of a file at a moment, as MIDI; null where there is none that is clear.
function pitchAt(samples, rate, seconds) {
  const from = Math.round((seconds + settled) * rate);
  const part = samples.subarray(from, from + window);
  if (part.length < window) return null;
  const [hz, clarity] = PitchDetector.forFloat32Array(window).findPitch(part, rate);
  return clarity > 0.9 ? Math.round(69 + 12 * Math.log2(hz / 440)) : null;
}

// Where the thumb has the root: C A F G on a guitar; its place on a ukulele is the fourth string, whatever that gives. Common practice.
for (const [instrument, roots] of [["guitar", [0, 9, 5, 7]], ["ukulele", [7, 9, 9, 7]]]) {
  test(`two opinions on the strings of a ${instrument} agree`, () => {
    const dir = mkdtempSync(join(tmpdir(), "arplin-opinion-"));
    const run = (args) => execFileSync("../bin/arplin", args, { maxBuffer: 1 << 28 });
    const file = join(dir, "take.wav");
    writeFileSync(file, run(["play", ...asked, "--instrument", instrument, "--bars", String(bars), "--faults", "wrong-string:25%", "--seed", "31", "--truth", join(dir, "truth.json")]));
    const truth = JSON.parse(readFileSync(join(dir, "truth.json"), "utf8"));
    const { strokes } = JSON.parse(run(["listen", ...asked, "--instrument", instrument, "--bars", String(bars), file]));
    const wav = readFileSync(file);
    const rate = wav.readUInt32LE(24);
    const samples = Float32Array.from({ length: (wav.length - 44) / 2 }, (_, i) => wav.readInt16LE(44 + 2 * i) / 32768);

    const usual = {}; // the pitch of each chord where the string was right
    let agreed = 0;
    let others = 0;
    truth.strokes.forEach((stroke) => {
      const theirs = pitchAt(samples, rate, stroke.played_ms / 1000);
      const heard = strokes.find(({ bar, slot, state }) => bar === stroke.bar && slot === stroke.slot && state !== "extra");
      if (theirs === null || !heard) return;
      if (heard.state === "other string") {
        others++;
        if (Note.midi(heard.string) === theirs) agreed++;
        return;
      }
      usual[stroke.bar % 4] ??= theirs;
      if (usual[stroke.bar % 4] === theirs) agreed++;
    });
    expect(others).toBeGreaterThan(1);
    expect(agreed, "strokes of which both say the same").toBe(bars);
    expect(Object.values(usual).map((midi) => midi % 12), "the roots of the chords, by both").toEqual(roots);
  });
}
