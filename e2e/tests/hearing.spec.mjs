// What the page renders is listened to: recorded, and its onsets, pitches and levels found.
import { test, expect } from "./arplin.mjs";

// The clicks and the notes of a score are rendered by the browser's offline context, and
// their onsets found in what it rendered.
test("onsets fall within two milliseconds of the score, through a change of tempo", async ({ teacher: page }) => {
  await page.goto("/patterns/thumb-once");
  const { clicks, notes, loudest } = await page.evaluate(async () => {
    const score = await (await fetch("/patterns/thumb-once/score?instrument=guitar")).json();
    const render = async (options, change, play = score) => {
      const context = new OfflineAudioContext(1, 44100 * 12, 44100);
      const player = new (await import("/static/js/player.js")).Player(context, play, { out: context.destination, tempo: 90, ...options });
      await player.prepare();
      player.start(0.25);
      player.schedule(6);
      if (change) player.options.tempo = change;
      player.schedule(11.5);
      return (await context.startRendering()).getChannelData(0);
    };
    // An onset is where the loudness of a few samples rises far above that of those before.
    const onsets = (data, quiet) => {
      const found = [];
      const size = 22;
      const power = (from) => { let sum = 0; for (let i = from; i < from + size; i++) sum += data[i] * data[i]; return sum / size; };
      for (let i = 2205; i + size < data.length; i += size) {
        const before = Math.max(power(i - size), power(i - 2 * size), power(i - 12 * size));
        if (power(i) > quiet && power(i) > 6 * before && (!found.length || i / 44100 - found.at(-1) > 0.1)) {
          let at = i - size;
          while (Math.abs(data[at]) < 0.004) at++;
          found.push(at / 44100);
        }
      }
      return found;
    };
    const clicks = onsets(await render({ click: true, silent: new Set(["thumb", "fingers", "strum"]) }, 120), 1e-4);
    // A note begins where the music first differs from the same music without it.
    const data = await render({ click: false });
    const notes = [];
    for (let i = 0; i < 4; i++) {
      const without = await render({ click: false }, 0, { ...score, notes: score.notes.filter((_, k) => k !== i) });
      notes.push(data.findIndex((x, k) => Math.abs(x - without[k]) > 1e-5) / 44100);
    }
    return { clicks, notes, loudest: data.reduce((most, x) => Math.max(most, Math.abs(x)), 0) };
  });
  const beats = [];
  for (let time = 0.25, tempo = 90; time < 11.4;) {
    beats.push(time);
    if (time + 60 / tempo >= 6) tempo = 120;
    time += 60 / tempo;
  }
  expect(clicks.length).toBeGreaterThanOrEqual(beats.length - 1);
  clicks.forEach((time, i) => expect(Math.abs(time - beats[i]), `click ${i}`).toBeLessThan(0.002));
  notes.forEach((time, i) => expect(Math.abs(time - (0.25 + i * 4 * 60 / 90)), `note ${i}`).toBeLessThan(0.002));
  expect(loudest).toBeGreaterThan(0.1);
  expect(loudest).toBeLessThan(1);
});

// A bass rings for seconds: a hand that is switched off ends with its switch, and the others ring on.
test("a hand that is switched off is silent at once", async ({ teacher: page }) => {
  await page.goto("/patterns/thumb-once");
  const { before, after, others } = await page.evaluate(async () => {
    const whole = await (await fetch("/patterns/thumb-once/score?instrument=guitar")).json();
    const note = whole.notes.find(({ by }) => by === "thumb");
    const level = async (by) => {
      const context = new OfflineAudioContext(1, 44100 * 3, 44100);
      const player = new (await import("/static/js/player.js")).Player(context, { ...whole, notes: [{ ...note, by, t: 0 }] }, { out: context.destination, tempo: 60, click: "", silent: new Set() });
      await player.prepare();
      player.start(0);
      player.schedule(0.2);
      context.suspend(1).then(() => { player.set({ silent: new Set(["thumb"]) }); context.resume(); });
      const data = (await context.startRendering()).getChannelData(0);
      const power = (from, to) => Math.sqrt(data.subarray(44100 * from, 44100 * to).reduce((sum, x) => sum + x * x, 0) / (44100 * (to - from)));
      return [power(0.5, 1), power(1.1, 2)];
    };
    const [before, after] = await level("thumb");
    return { before, after, others: (await level("fingers"))[1] };
  });
  expect(before).toBeGreaterThan(0.01);
  expect(after).toBeLessThan(0.0001);
  expect(others).toBeGreaterThan(0.003);
});

// Every note of a song goes to the sound card when the score says, on a song that goes round.
test("a score is scheduled note by note", async ({ teacher: page, school }) => {
  await page.goto(school.umbrellas);
  const { wrong, played, notes } = await page.evaluate(async (url) => {
    const score = await (await fetch(url)).json();
    const context = new OfflineAudioContext(1, 44100, 44100);
    const player = new (await import("/static/js/player.js")).Player(context, score, { out: context.destination, tempo: 300 });
    await player.prepare();
    const heard = [];
    player.sound = (note, time) => heard.push([note, time]);
    player.start(0);
    player.schedule(score.ticks * 2 * 60 / 300 / score.beat - 0.001); // twice round
    const tick = 60 / 300 / score.beat;
    const wrong = heard.filter(([note, time], i) => note !== score.notes[i % score.notes.length] || Math.abs(time - (note.t + Math.floor(i / score.notes.length) * score.ticks) * tick) > 1e-6).length;
    return { wrong, played: heard.length, notes: score.notes.length };
  }, `${school.umbrellas}/score?pattern=thumb-two-between`);
  expect(notes).toBeGreaterThan(80);
  expect(played).toBe(2 * notes);
  expect(wrong).toBe(0);
});

// A loop is played, its tempo changed and the thumb muted, and what comes out is recorded.
test.describe("the tape", () => {
  test.use({ bypassCSP: true }); // the recorder is no part of the program
  test("a loop is recorded through a change of tempo and without the thumb", async ({ teacher: page }) => {
    await page.goto("/patterns/thumb-two-between");
    const bar = page.getByRole("region", { name: "Play bar" });
    await bar.locator(".playkeys > summary").click();
  await bar.getByLabel("count-in").uncheck(); await bar.locator(".playkeys > summary").click();
    // The tape runs where the sound is made, so that a busy page loses none of it.
    const recorder = `registerProcessor("tape", class extends AudioWorkletProcessor {
      parts = [];
      process([input]) {
        this.parts.push(input[0] ? input[0].slice() : new Float32Array(128));
        if (this.parts.length === 32) { this.port.postMessage(this.parts); this.parts = []; }
        return true;
      }
    });`;
    await page.evaluate(async (source) => {
      const { context, out } = await (await import("/static/js/player.js")).speaker();
      await context.audioWorklet.addModule(URL.createObjectURL(new Blob([source], { type: "text/javascript" })));
      const tape = new AudioWorkletNode(context, "tape");
      window.tape = [];
      tape.port.onmessage = ({ data }) => window.tape.push(...data);
      out.connect(tape).connect(context.destination);
      window.tapeRate = context.sampleRate;
    }, recorder);
    const listen = async (ms) => {
      await page.evaluate(() => { window.tape.length = 0; });
      await page.waitForTimeout(ms);
      return page.evaluate(() => {
        const all = new Float32Array(window.tape.reduce((n, part) => n + part.length, 0));
        window.tape.reduce((at, part) => { all.set(part, at); return at + part.length; }, 0);
        const rate = window.tapeRate;
        // How much of a pitch is in it, and how loud all of it is.
        const strength = (hertz) => {
          let [re, im] = [0, 0];
          all.forEach((x, i) => { re += x * Math.cos(2 * Math.PI * hertz * i / rate); im += x * Math.sin(2 * Math.PI * hertz * i / rate); });
          return Math.hypot(re, im) / all.length;
        };
        const level = Math.sqrt(all.reduce((sum, x) => sum + x * x, 0) / all.length);
        const top = all.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
        // Attacks: where a hundredth of a second is much louder than the one before.
        const size = Math.round(rate / 100);
        const power = Array.from({ length: Math.floor(all.length / size) }, (_, k) => all.subarray(k * size, k * size + size).reduce((sum, x) => sum + x * x, 0));
        const attacks = power.reduce((found, p, k) => { if (k > 2 && p > 2.2 * power[k - 1] && p > 1e-3 && (!found.length || k - found.at(-1) > 8)) found.push(k); return found; }, []).map((k) => k / 100);
        return { seconds: all.length / rate, level, top, attacks, bass: strength(98), middle: strength(246.94) };
      });
    };
    // The click alone: so many in five seconds, evenly, at both tempos and through the change.
    await bar.getByLabel("click", { exact: true }).check();
    for (const part of ["thumb", "fingers"]) await bar.getByLabel(part).uncheck();
    await bar.getByRole("button", { name: "Play" }).click();
    await expect(bar.locator(".ruler span").nth(1)).toBeVisible();
    await bar.locator(".ruler span").nth(0).dragTo(bar.locator(".ruler span").nth(0)); // the bar of G goes round
    await page.waitForTimeout(600);
    const gaps = (list) => list.slice(1).map((x, i) => x - list[i]);
    const slow = await listen(6500);
    expect(Math.abs(slow.attacks.length - slow.seconds * 48 / 60), String(slow.attacks)).toBeLessThan(1.5);
    gaps(slow.attacks).forEach((gap) => expect(Math.abs(gap - 60 / 48), String(slow.attacks)).toBeLessThan(0.04));
    const change = listen(4000);
    await page.waitForTimeout(1500);
    await bar.getByLabel("Tempo", { exact: true }).evaluate((el) => { el.value = "144"; el.dispatchEvent(new Event("change", { bubbles: true })); }); // three times as fast
    expect(Math.max(...gaps((await change).attacks)), "no gap where the tempo changes").toBeLessThan(60 / 48 + 0.05);
    const quick = await listen(5000);
    expect(Math.abs(quick.attacks.length - quick.seconds * 144 / 60), String(quick.attacks)).toBeLessThan(1.5);
    gaps(quick.attacks).forEach((gap) => expect(Math.abs(gap - 60 / 144), String(quick.attacks)).toBeLessThan(0.04));

    // The hand: with the thumb its bass is in it, without it is not, and the fingers are as before.
    await bar.getByLabel("click", { exact: true }).uncheck();
    for (const part of ["thumb", "fingers"]) await bar.getByLabel(part).check();
    await page.waitForTimeout(1500);
    const hand = await listen(4000);
    expect(hand.level).toBeGreaterThan(0.02);
    expect(hand.top).toBeLessThan(1);
    await bar.getByLabel("thumb").uncheck();
    await page.waitForTimeout(2500);
    const fingers = await listen(4000);
    expect(fingers.level).toBeGreaterThan(0.005);
    expect(fingers.bass, "the bass is silent").toBeLessThan(hand.bass / 5);
    expect(fingers.middle, "the fingers are not").toBeGreaterThan(hand.middle / 4);
    await bar.getByRole("button", { name: "Stop" }).click();
    await page.waitForTimeout(500);
    const after = await listen(1000);
    expect(after.level).toBeLessThan(0.002);
  });
});

// A six-eight that becomes slow while it plays is clicked in eighths from there on, each once; the
// other ways of the click leave out what they say.
test("clicks follow the tempo and their way", async ({ teacher: page }) => {
  await page.goto("/patterns/six-eight-strum");
  const { clicked, ways } = await page.evaluate(async () => {
    const score = await (await fetch("/patterns/six-eight-strum/score")).json();
    const play = async (options, change) => {
      const context = new OfflineAudioContext(1, 44100, 44100);
      const player = new (await import("/static/js/player.js")).Player(context, score, { out: context.destination, silent: new Set(["thumb", "fingers", "strum"]), ...options });
      await player.prepare();
      const at = [];
      player.click = (time) => at.push(Math.round(time * 1000) / 1000);
      player.start(0);
      player.schedule(3.9);
      if (change) player.options.tempo = change;
      player.schedule(8);
      return at;
    };
    return { clicked: await play({ tempo: 60, click: "beat" }, 40), ways: [await play({ tempo: 60, click: "one" }), await play({ tempo: 60, click: "gaps" }), await play({ tempo: 60, click: "off" }), await play({ tempo: 60 })] };
  });
  expect(clicked.slice(0, 4)).toEqual([0, 1, 2, 3]); // dotted quarters at 60
  expect(clicked.slice(4).length).toBe(new Set(clicked.slice(4)).size);
  clicked.slice(5).forEach((time, i) => expect(time - clicked[i + 4], String(clicked)).toBeCloseTo(0.5, 2)); // eighths at 40
  expect(ways[0]).toEqual([0, 2, 4, 6]); // on one
  expect(ways[1]).toEqual([0, 1, 4, 5]); // every other bar
  expect(ways[2][0]).toBeCloseTo(0.5, 2);
  expect(ways[3]).toEqual([]);
});

// Bars that go round behind the playhead are played from now on, and nothing of the way back.
test("a loop behind the playhead begins now", async ({ teacher: page }) => {
  await page.goto("/patterns/common-strum");
  const { before, after } = await page.evaluate(async () => {
    const score = await (await fetch("/patterns/common-strum/score")).json();
    const context = new OfflineAudioContext(1, 44100, 44100);
    const player = new (await import("/static/js/player.js")).Player(context, score, { out: context.destination, tempo: 120 });
    await player.prepare();
    const heard = [];
    player.sound = (note, time) => heard.push([note.t, time]);
    player.start(0);
    player.schedule(6.5); // in the fourth bar
    const before = heard.length;
    player.between(0, score.bars[1].from);
    player.schedule(2.05);
    return { before, after: heard.slice(before) };
  });
  expect(before).toBeGreaterThan(20);
  const first = after.filter(([tick]) => tick === 0).map(([, time]) => time);
  expect(Math.min(...after.map(([, time]) => time))).toBeCloseTo(0.06, 3); // the clock of this context stands at 0
  expect(new Set(first).size, "the first bar once").toBe(1);
});

// A hostile timeline: a thousand bars on twelve strings at 300, and one with nothing in it.
test("a thousand bars on twelve strings at 300 are played", async ({ teacher: page }) => {
  await page.goto("/patterns/thumb-once");
  const { heard, top, empty } = await page.evaluate(async () => {
    const score = await (await fetch("/patterns/thumb-once/score?instrument=guitar")).json();
    const bars = Array.from({ length: 1000 }, (_, i) => ({ from: i * 4 * score.beat, beats: 4, chords: "C", f: 0 }));
    const notes = bars.flatMap((bar) => Array.from({ length: 16 }, (_, k) => Array.from({ length: 12 }, (_, s) => ({ t: bar.from + k * score.beat / 4, s: s + 1, m: 40 + s * 3, k: "nail", by: "strum", loud: 0.5, late: 4 * s })))).flat();
    const play = async (what, seconds) => {
      const context = new OfflineAudioContext(1, 44100 * seconds, 44100);
      const { gain } = { gain: new GainNode(context, { gain: 0.72 }) };
      const limit = new DynamicsCompressorNode(context, { threshold: -4, knee: 2, ratio: 16, attack: 0.001, release: 0.08 });
      gain.connect(limit).connect(context.destination);
      const player = new (await import("/static/js/player.js")).Player(context, what, { out: gain, tempo: 300, click: "beat" });
      await player.prepare();
      let heard = 0;
      const sound = player.sound.bind(player);
      player.sound = (note, time) => { heard++; sound(note, time); };
      player.start(0);
      player.schedule(seconds);
      return { heard, top: (await context.startRendering()).getChannelData(0).reduce((most, x) => Math.max(most, Math.abs(x)), 0) };
    };
    const many = await play({ ...score, bars, notes, ticks: 4000 * score.beat }, 4);
    const empty = await play({ ...score, bars: [], notes: [], ticks: 0 }, 1);
    return { heard: many.heard, top: many.top, empty: empty.heard };
  });
  expect(heard).toBeGreaterThanOrEqual(5 * 16 * 12); // five bars of the thousand in four seconds, and no more than the next stroke
  expect(heard).toBeLessThanOrEqual((5 * 16 + 1) * 12);
  expect(top).toBeGreaterThan(0.2);
  expect(empty).toBe(0);
});
