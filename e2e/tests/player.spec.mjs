// The play bar: it plays, follows the tempo, the keys and what is edited; and what it
// schedules falls where the score says.
import { test, expect } from "./arplin.mjs";

test("patterns, steps and songs are heard from the same bar", async ({ teacher: page, school }) => {
  const bar = page.getByRole("region", { name: "Play bar" });
  for (const path of ["/patterns/thumb-two-between", `${school.umbrellas}?pattern=thumb-two-between`, school.ladder]) {
    await page.goto(path);
    await bar.getByLabel("count-in").uncheck();
    await bar.getByRole("button", { name: "Play" }).click();
    await expect(bar.locator(".ruler .on")).toHaveCount(1);
    await expect(bar.getByRole("button", { name: "Stop" })).toBeVisible();
  }

  // The tempo changes while it plays; the bars go on.
  await bar.getByRole("button", { name: "goal" }).click();
  await expect(bar.getByLabel("Tempo")).toHaveValue("84");
  await bar.getByLabel("Tempo").fill("240");
  await bar.getByLabel("Tempo").press("Enter");
  await expect(bar.locator(".ruler span").nth(2)).toHaveClass("on");
  await bar.getByRole("button", { name: "Stop" }).click();
  await expect(bar.locator(".ruler .on")).toHaveCount(0);

  // Bars go round: dragged, by keys, and opened again. A tempo is tapped, halved, doubled.
  await bar.getByRole("button", { name: "Play" }).click();
  await expect(bar.locator(".ruler .on")).toHaveCount(1);
  await bar.locator(".ruler span").nth(1).dragTo(bar.locator(".ruler span").nth(2));
  await expect(bar.locator(".ruler .in")).toHaveCount(2);
  await expect(bar.locator(".playsaid")).toHaveText("Bars 2 to 3 go round.");
  const heard = await bar.locator(".ruler").evaluate((ruler) => new Promise((resolve) => {
    const seen = [];
    const watch = new MutationObserver(() => {
      const at = [...ruler.children].findIndex((el) => el.classList.contains("on"));
      if (at >= 0 && seen.at(-1) !== at) seen.push(at);
      if (seen.length > 5) { watch.disconnect(); resolve(seen); }
    });
    watch.observe(ruler, { subtree: true, attributes: true });
  }));
  expect(heard.slice(-4).every((at) => at === 1 || at === 2), String(heard)).toBe(true);
  await page.locator("main").focus();
  await page.keyboard.press("-");
  await expect(bar.getByLabel("Tempo")).toHaveValue("120");
  await page.keyboard.press("Escape");
  await expect(bar.locator(".ruler .in")).toHaveCount(0);
  for (let i = 0; i < 4; i++) { await page.keyboard.press("t"); await page.waitForTimeout(600); }
  expect(Number(await bar.getByLabel("Tempo").inputValue())).toBeLessThan(105);
  const [along] = await Promise.all([page.waitForEvent("download"), bar.getByRole("link", { name: "Take it along" }).click()]);
  expect(along.suggestedFilename()).toMatch(/^Nine Umbrellas at \d+\.wav$/);
  await bar.getByRole("button", { name: "Stop" }).click();

  // Another step is put into the bar; Space stops it.
  await page.getByRole("button", { name: "Hear step 3" }).click();
  await expect(bar.locator(".ruler .on")).toHaveCount(1);
  await page.locator("main").focus();
  await page.keyboard.press(" ");
  await expect(bar.getByRole("button", { name: "Play" })).toBeVisible();

  // What cannot be fetched is said, and can be tried again.
  await page.goto("/patterns/roll-up");
  await page.route("**/tones**", (route) => route.abort());
  await bar.getByRole("button", { name: "Play" }).click();
  await expect(bar.getByRole("alert")).toContainText("could not be fetched");
  await page.unroute("**/tones**");
  await bar.getByLabel("count-in").uncheck();
  await bar.getByRole("button", { name: "Play" }).click();
  await expect(bar.locator(".ruler .on")).toHaveCount(1);
});

// The clicks and the notes of a score are rendered by the browser's offline context, and
// their onsets found in what it rendered.
test("onsets fall within two milliseconds of the score, through a change of tempo", async ({ teacher: page }) => {
  await page.goto("/patterns/thumb-once");
  const { clicks, notes, loudest } = await page.evaluate(async () => {
    const score = await (await fetch("/patterns/thumb-once/score?instrument=guitar")).json();
    const render = async (options, change, play = score) => {
      const context = new OfflineAudioContext(1, 44100 * 12, 44100);
      const player = new window.arplin.Player(context, play, { out: context.destination, tempo: 90, ...options });
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
