// Files that leave are read by readers that are not ours, and files that others write are read:
// @tonejs/midi, midi-writer-js (MIDI); verovio, musicxml-io (MusicXML); chordsheetjs (chord sheets).
import { execFileSync } from "node:child_process";
import { createRequire } from "node:module";
import createVerovioModule from "verovio/wasm";
import { VerovioToolkit } from "verovio/esm";
import { test, expect } from "@playwright/test";

const require = createRequire(import.meta.url);
const { Midi } = require("@tonejs/midi");
const MidiWriter = require("midi-writer-js");
const musicxml = require("musicxml-io");
const { ChordProParser } = require("chordsheetjs");

const lamps = "../demo/songs/lamps-on-lantern-street.cho";
const umbrellas = "../demo/songs/nine-umbrellas.cho";
const buttons = "../demo/songs/buttons-in-a-biscuit-tin.cho";
const figure = "4/4: p . p'+m . p i p' .";
function convert(file, to, flags = [], input) {
  return execFileSync("../bin/arplin", ["convert", input ? "-" : file, "--to", to, ...flags], { input, stdio: ["pipe", "pipe", "ignore"], maxBuffer: 64 << 20 });
}
const sheet = (bytes) => convert("", "chordpro", [], bytes).toString();

test("a MIDI file of ours is read by another program: tempo, time signature, tune, strings, markers", () => {
  const midi = new Midi(convert(lamps, "midi", ["--pattern", figure]));
  expect(Math.round(midi.header.tempos[0].bpm)).toBe(84);
  expect(midi.header.timeSignatures[0].timeSignature).toEqual([4, 4]);
  expect(midi.name).toBe("Lamps on Lantern Street");
  // The reader makes a track of each channel: the tune, and a channel a string, counted from 0 for the thinnest.
  const on = (channel) => midi.tracks.filter((t) => t.channel === channel).flatMap((t) => t.notes).sort((x, y) => x.ticks - y.ticks);
  const beats = (notes, n) => notes.slice(0, n).map((x) => [x.name, x.ticks / midi.header.ppq]);
  expect(midi.tracks.map((t) => t.name).filter(Boolean)).toEqual(["tune", "fingers", "thumb"]);
  expect(beats(on(15), 6)).toEqual([["E4", 0], ["E4", 1], ["G4", 2], ["A4", 4], ["G4", 5], ["E4", 6]]);
  // Over C the thumb goes from string 5 to 4, a beat each; the fingers pinch on 2 and come on the and of 3. Source: common practice, C as x32010.
  expect(beats(on(4), 2)).toEqual([["C3", 0], ["C3", 2]]);
  expect(beats(on(3), 2)).toEqual([["E3", 1], ["E3", 3]]);
  expect(beats(on(1), 1)).toEqual([["C4", 1]]);
  expect(beats(on(2), 1)).toEqual([["G3", 2.5]]);
  expect(midi.tracks.find((t) => t.name === "thumb").instrument.name).toBe("acoustic guitar (steel)");
  expect(midi.header.meta.filter((m) => m.type === "marker").map((m) => m.text)).toEqual(["Verse"]);
  const four = new Midi(convert(buttons, "midi", ["--pattern", figure]));
  expect(four.header.meta.filter((m) => m.type === "marker")).toHaveLength(4); // four times the same bars
});

test("MusicXML of ours is laid out and valid elsewhere: bars, strings, chords, repeats", async () => {
  const module = await createVerovioModule();
  for (const [file, flags, bars, strings] of [
    [lamps, ["--pattern", figure], 12, 6], [umbrellas, ["--pattern", "4/4: D . D U . U D U", "--instrument", "ukulele"], 16, 4], [lamps, ["--station", "alternating"], 12, 6],
    ["../demo/songs/bakers-ferry.cho", ["--pattern", "6/8: p i m a m i"], 18, 6],
  ]) {
    const xml = convert(file, "musicxml", flags).toString();
    const toolkit = new VerovioToolkit(module);
    expect(toolkit.loadData(xml)).toBeTruthy();
    const mei = toolkit.getMEI();
    expect(mei.match(/<measure /g)).toHaveLength(bars);
    expect(mei).toContain(`lines="${strings}"`);
    const score = musicxml.parse(xml);
    expect(musicxml.validate(score).errors).toEqual([]);
    const tab = score.parts.at(-1);
    const notes = tab.measures.flatMap((m) => m.entries).filter((e) => e.type === "note" && e.pitch);
    const drawn = (mei.match(/tab\.fret="/g) || []).length;
    expect(drawn).toBe(notes.length);
    expect(drawn).toBeGreaterThan(bars);
    expect(toolkit.renderToSVG(1)).toContain("<svg");
  }
  // The first bar: 5/3, 4/2 with 2/1, 5/3, 3/0, 4/2. Source: C as x32010, common practice.
  const first = musicxml.parse(convert(lamps, "musicxml", ["--pattern", figure]).toString()).parts[1].measures[0];
  const places = first.entries.filter((e) => e.notations).map((e) => { const of = (k) => e.notations.find((n) => n.technical === k)?.[k]; return `${of("string")}/${of("fret")}`; });
  expect(places).toEqual(["5/3", "4/2", "2/1", "5/3", "3/0", "4/2"]);
  expect(convert(buttons, "musicxml").toString()).toContain('<repeat direction="backward" times="4">');
});

test("MusicXML of ours is drawn by a second program: bars and tablature", async ({ page }) => {
  await page.setContent('<div id="score" style="width: 1200px"></div>');
  await page.addScriptTag({ path: require.resolve("opensheetmusicdisplay/build/opensheetmusicdisplay.min.js") });
  const bars = await page.evaluate(async (xml) => {
    const display = new opensheetmusicdisplay.OpenSheetMusicDisplay("score", { backend: "svg" });
    await display.load(xml);
    display.render();
    return [display.Sheet.SourceMeasures.length, display.Sheet.Instruments.map((i) => i.Name), display.Sheet.TitleString];
  }, convert(lamps, "musicxml", ["--pattern", figure]).toString());
  expect(bars).toEqual([12, ["Tune", "Guitar"], "Lamps on Lantern Street"]);
  await expect(page.locator("#score svg").first()).toBeVisible();
});

test("a chord sheet of ours is read by another program", () => {
  const song = new ChordProParser().parse(convert(umbrellas, "chordpro").toString());
  expect(song.title).toBe("Nine Umbrellas");
  expect(song.getChords()).toEqual(["C", "Am", "F", "G7"]);
  const words = song.lines.flatMap((l) => l.items).map((i) => i.lyrics || "").join(" ");
  expect(words).toContain("umbrellas");
});

test("files that others have written become songs", () => {
  const round = musicxml.serialize(musicxml.parseAbc('X:1\nT:Round Pond\nM:3/4\nL:1/4\nQ:1/4=96\nK:G\n|:"G"G2 A|"D7"A ^F D|"G"B3:|\n'));
  const song = sheet(round);
  for (const part of ["{title: Round Pond}", "{time: 3/4}", "{tempo: 96}", "{key: G}", "{x_times: 2}", "| [G] | [D7] | [G] |", "{x_melody: G4:2 A4:1 | A4:1 F#4:1 D4:1 | B4:3}"]) expect(song).toContain(part);

  const track = new MidiWriter.Track();
  track.setTempo(72).setTimeSignature(3, 4);
  track.addEvent(new MidiWriter.NoteEvent({ pitch: ["E4", "G4", "A4"], duration: "4", sequential: true }));
  track.addEvent(new MidiWriter.NoteEvent({ pitch: ["C5"], duration: "d2" }));
  const tune = sheet(Buffer.from(new MidiWriter.Writer([track]).buildFile()));
  expect(tune).toContain("{time: 3/4}");
  expect(tune).toContain("{tempo: 72}");
  expect(tune).toContain("{x_melody: E4:1 G4:1 A4:1 | C5:3}");

  const midi = new Midi();
  midi.header.setTempo(100);
  const low = midi.addTrack();
  low.name = "bass";
  low.addNote({ midi: 40, time: 0, duration: 2 });
  const high = midi.addTrack();
  high.name = "Melody";
  [64, 67, 72].forEach((note, i) => high.addNote({ midi: note, time: 0.6 * i, duration: 0.6 }));
  expect(sheet(Buffer.from(midi.toArray()))).toContain("{x_melody: E4:1 G4:1 C5:1}");
});

test("what comes back is what went out: song to MusicXML to song, pattern to tablature to pattern", () => {
  const tuneOf = (text) => text.match(/{x_melody: .*}/)?.[0];
  expect(tuneOf(sheet(convert(lamps, "musicxml")))).toBe(tuneOf(convert(lamps, "chordpro").toString()));
  expect(sheet(convert(lamps, "text", ["--pattern", figure]))).toContain(`= ${figure}}`);
  expect(convert(lamps, "svg", ["--pattern", figure]).toString()).toMatch(/^<\?xml[^]*<svg [^>]*xmlns="http:\/\/www.w3.org\/2000\/svg"[^]*<\/svg>/);
  expect(convert(lamps, "wav", ["--pattern", figure]).subarray(0, 4).toString()).toBe("RIFF");
});
