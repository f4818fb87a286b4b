// A recording as a file of sound that the browser plays at any speed. Source of the form: Microsoft, "Multimedia
// Programming Interface and Data Specifications 1.0", 1991.
export function wav(samples, rate) {
  const head = 44;
  const view = new DataView(new ArrayBuffer(head + 2 * samples.length));
  const text = (at, letters) => [...letters].forEach((letter, i) => view.setUint8(at + i, letter.charCodeAt(0)));
  text(0, "RIFF");
  view.setUint32(4, view.byteLength - 8, true);
  text(8, "WAVEfmt ");
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, 1, true);
  view.setUint32(24, rate, true);
  view.setUint32(28, 2 * rate, true);
  view.setUint16(32, 2, true);
  view.setUint16(34, 16, true);
  text(36, "data");
  view.setUint32(40, 2 * samples.length, true);
  samples.forEach((x, i) => view.setInt16(head + 2 * i, Math.round(32767 * Math.max(-1, Math.min(1, x))), true));
  return new Blob([view], { type: "audio/wav" });
}
