// Writes what the core's tests compare with: chord notes by the library tonal
// and chord shapes by the open data set chords-db, both from the npm registry.
// Run by hand (make reference) when either is renewed; the results are committed.
import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { Chord, ChordType, Interval, Note } from "tonal";

const core = join(import.meta.dirname, "../core");

// symbol, TAB, notes; one line for each root and each name of each quality.
const roots = ["C", "C#", "Db", "D", "Eb", "E", "F", "F#", "Gb", "G", "Ab", "A", "Bb", "B"];
const lines = [];
for (const type of ChordType.all()) {
  for (const alias of type.aliases) {
    if (/^[b#]/.test(alias)) continue; // "b9sus" on A cannot be told from "9sus" on Ab
    for (const root of roots) {
      const chord = Chord.getChord(alias, root);
      if (!chord.empty) lines.push(`${root}${alias}\t${chord.notes.join(" ")}`);
    }
  }
}
writeFileSync(join(core, "theory/testdata/tonal.tsv"), lines.join("\n") + "\n");

// instrument, key, suffix, frets (thickest first, -1 muted), fingers.
const shapes = [];
for (const instrument of ["guitar", "ukulele"]) {
  const file = join(import.meta.dirname, `node_modules/@tombatossals/chords-db/lib/${instrument}.json`);
  for (const chords of Object.values(JSON.parse(readFileSync(file, "utf8")).chords)) {
    for (const { key, suffix, positions } of chords) {
      for (const { frets, fingers, baseFret } of positions) {
        const real = frets.map((f) => (f > 0 ? f + baseFret - 1 : f));
        shapes.push([instrument, key, suffix, real.join(","), fingers.join(",")].join("\t"));
      }
    }
  }
}
writeFileSync(join(core, "fretboard/testdata/chords-db.tsv"), shapes.join("\n") + "\n");

// What tonal detects where a note is added to a chord: chord, pitch class, names on the root.
const detected = [];
for (const root of ["C", "G", "D", "A", "E", "F"]) {
  for (const quality of ["", "m", "7"]) {
    const notes = Chord.get(root + quality).notes;
    for (let semitones = 0; semitones < 12; semitones++) {
      const added = Note.simplify(Note.transpose(root, Interval.fromSemitones(semitones)));
      if (notes.some((n) => Note.chroma(n) === Note.chroma(added))) continue;
      const names = Chord.detect([...notes, added]).filter((name) => !name.includes("/") || name.includes("6/9")).filter((name) => Chord.get(name).tonic === root);
      detected.push([root + quality, Note.chroma(added), names.join(" ")].join("\t"));
    }
  }
}
writeFileSync(join(core, "theory/testdata/detected.tsv"), detected.join("\n") + "\n");
console.log(`${lines.length} chords of tonal, ${shapes.length} shapes of chords-db`);
