// The play bar: it plays, follows the tempo, the keys and what is edited; and what it
// schedules falls where the score says.
import { test, expect, expectAccessible, expectFits } from "./arplin.mjs";

test("patterns, steps and songs are heard from the same bar", async ({ teacher: page, school }) => {
  const bar = page.getByRole("region", { name: "Play bar" });
  for (const path of ["/patterns/thumb-two-between", `${school.umbrellas}?pattern=thumb-two-between`, school.ladder]) {
    await page.goto(path);
    await bar.locator(".playkeys > summary").click();
    await bar.getByLabel("count-in").uncheck();
    await bar.locator(".playkeys > summary").click();
    await bar.getByRole("button", { name: "Play" }).click();
    await expect(bar.locator(".ruler .on")).toHaveCount(1);
    await expect(bar.getByRole("button", { name: "Stop" })).toBeVisible();
    // Half of Am is another chord: where one has no room, none is named.
    const cut = (ruler) => [...ruler.querySelectorAll("span")].filter((bar) => getComputedStyle(bar).fontSize !== "0px" && bar.scrollWidth > bar.clientWidth).length;
    expect(await bar.locator(".ruler").evaluate(cut), path).toBe(0);
  }

  // The tempo changes while it plays; the bars go on.
  await bar.getByRole("button", { name: "goal" }).click();
  await expect(bar.getByLabel("Tempo", { exact: true })).toHaveValue("84");
  await bar.getByLabel("Tempo", { exact: true }).fill("240");
  await bar.getByLabel("Tempo", { exact: true }).press("Enter");
  await expect(bar.locator(".ruler span").nth(2)).toHaveClass("on");
  await bar.getByRole("button", { name: "Stop" }).click();
  await expect(bar.locator(".ruler .on")).toHaveCount(0);

  // Bars go round: dragged, by keys, and opened again. A tempo is tapped, halved, doubled.
  await bar.getByRole("button", { name: "Play" }).click();
  await expect(bar.locator(".ruler .on")).toHaveCount(1);
  await bar.locator(".ruler span").nth(1).dragTo(bar.locator(".ruler span").nth(2));
  await expect(bar.locator(".ruler .in")).toHaveCount(2);
  await expect(bar.locator(".playsaid")).toHaveText("Looping bars 2 to 3.");
  await expect(bar.locator(".playhead")).toBeVisible();
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
  await expect(bar.getByLabel("Tempo", { exact: true })).toHaveValue("120");
  await page.keyboard.press("Escape");
  await expect(bar.locator(".ruler .in")).toHaveCount(0);
  for (let i = 0; i < 4; i++) { await page.keyboard.press("t"); await page.waitForTimeout(600); }
  expect(Number(await bar.getByLabel("Tempo", { exact: true }).inputValue())).toBeLessThan(105);
  await page.keyboard.press("3");
  await expect(bar.getByLabel("Tempo", { exact: true })).toHaveValue("84");
  await bar.locator(".playkeys > summary").click();
  const [along] = await Promise.all([page.waitForEvent("download"), bar.getByRole("link", { name: "what the bar plays now" }).click()]);
  expect(along.suggestedFilename()).toMatch(/^Nine Umbrellas at \d+\.wav$/);
  await bar.getByRole("button", { name: "Stop" }).click();

  // Another step is put into the bar; Space stops it.
  await page.getByRole("button", { name: "Play step 3" }).click();
  await expect(bar.locator(".ruler .on")).toHaveCount(1);
  await page.locator("main").focus();
  await page.keyboard.press(" ");
  await expect(bar.getByRole("button", { name: "Play" })).toBeVisible();

  // What cannot be fetched is said, and can be tried again.
  await page.goto("/patterns/roll-up");
  await page.route("**/tones**", (route) => route.abort());
  await bar.getByRole("button", { name: "Play" }).click();
  await expect(bar.getByRole("alert")).toContainText("couldn’t load");
  await page.unroute("**/tones**");
  await bar.locator(".playkeys > summary").click();
    await bar.getByLabel("count-in").uncheck();
    await bar.locator(".playkeys > summary").click();
  await bar.getByRole("button", { name: "Play" }).click();
  await expect(bar.locator(".ruler .on")).toHaveCount(1);
});


const lit = (scope) => scope.locator(".lit").first();

test("what sounds is lit where it stands, and what is edited goes on playing", async ({ teacher: page, school }) => {
  const bar = page.getByRole("region", { name: "Play bar" });
  const quick = async () => {
    await bar.locator(".playkeys > summary").click();
    await bar.getByLabel("count-in").uncheck();
    await bar.locator(".playkeys > summary").click();
    await bar.getByRole("button", { name: "Play" }).click();
    await expect(bar.getByRole("button", { name: "Stop" })).toBeVisible();
  };
  // On a song the bar, its slot and its count; the chord ahead is said a beat before.
  await page.goto(`${school.umbrellas}?pattern=thumb-two-between`);
  await quick();
  await bar.getByLabel("Tempo", { exact: true }).fill("200");
  await bar.getByLabel("Tempo", { exact: true }).press("Enter");
  await expect(lit(page.locator(".onebar").nth(1))).toBeVisible();
  await expect(page.locator(".onebar.lit .count.lit")).toHaveCount(1);
  await page.waitForFunction(() => /^next (C|Am|F|G7)$/.test(document.querySelector(".playcount span").textContent)); // for a beat only
  await bar.getByRole("button", { name: "Stop" }).click();
  await expect(page.locator(".lit")).toHaveCount(0);

  // On the bench the figure under the hand; a stroke that is put in sounds in the next round.
  await page.goto("/bench?from=thumb-once&copy=yes");
  await quick();
  await expect(page.locator("#strip .lit").first()).toBeVisible();
  const before = await page.evaluate(() => Alpine.$data(document.querySelector("[data-play]")).score.notes.length);
  await page.locator("#strip").focus();
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("i");
  await expect.poll(() => page.evaluate(() => Alpine.$data(document.querySelector("[data-play]")).score.notes.length)).toBe(before + 4);
  await expect(bar.getByRole("button", { name: "Stop" })).toBeVisible();
  await bar.getByRole("button", { name: "Stop" }).click();
  // What is edited while it is silent is heard as it is now.
  await page.locator("#strip").focus();
  await page.keyboard.press("Delete");
  await expect(page.locator("#bench-strip")).toHaveAttribute("data-notation", /^4\/4: p( \.){7}$/);
  await bar.getByRole("button", { name: "Play" }).click();
  await expect.poll(() => page.evaluate(() => Alpine.$data(document.querySelector("[data-play]")).score?.notes.length)).toBe(before);
  await bar.getByRole("button", { name: "Stop" }).click();

  // Neighbours are heard; held down, the difference between the figure and one of them.
  await page.locator("#around summary").click();
  const near = page.locator("#around [data-beside]").first();
  await near.locator("[data-differ]").focus();
  await page.keyboard.down("h");
  await expect(bar.locator(".playsaid")).toHaveText("The pattern.");
  await bar.getByLabel("Tempo", { exact: true }).evaluate((el) => { el.value = "300"; el.dispatchEvent(new Event("change", { bubbles: true })); });
  await expect(bar.locator(".playsaid")).toHaveText("Its neighbour.");
  await page.keyboard.up("h");
  await expect(bar.getByRole("button", { name: "Play" })).toBeVisible();

  // On a ladder the step below, the step, and the target.
  await page.goto(school.ladder);
  const step = page.locator(`#step-${school.steps[2]}`);
  await step.focus();
  await page.keyboard.down("h");
  await expect(bar.locator(".playsaid")).toHaveText("The step below.");
  await bar.getByLabel("Tempo", { exact: true }).evaluate((el) => { el.value = "300"; el.dispatchEvent(new Event("change", { bubbles: true })); });
  await expect(bar.locator(".playsaid")).toHaveText("This step.");
  await expect(bar.locator(".playsaid")).toHaveText("The target.");
  await page.keyboard.up("h");
  await expect(page.locator(".lit")).toHaveCount(0);

  // A drill's exercise, a sheet, the desk, both sides of a comparison, a lesson, a week.
  const people = Object.values(school.students);
  for (const path of [`${school.umbrellas}/drill?pattern=thumb-two-between&bar=3`, "/patterns/compare?a=thumb-once&b=thumb-two-between", "/", "/lesson", `/students/${people[0]}/week`]) {
    await page.goto(path);
    await bar.locator(".playkeys > summary").click();
    await bar.getByLabel("count-in").uncheck();
    await bar.locator(".playkeys > summary").click();
    await page.locator("[data-hear]").nth(1).click();
    await expect(bar.getByRole("button", { name: "Stop" }), path).toBeVisible();
    await expect(bar.locator(".ruler .on"), path).toHaveCount(1);
  }
  await page.goto(`${school.ladder}/sheet`);
  await quick();
  await expect(page.locator(".sheet .lit").first()).toBeVisible();
});

test("the bar is practised as a teacher would: faster by rounds, growing, swung, the click in gaps", async ({ teacher: page }) => {
  const bar = page.getByRole("region", { name: "Play bar" });
  await page.goto("/patterns/common-strum");
  await expectAccessible(page);
  await bar.locator(".playkeys > summary").click();
    await bar.getByLabel("count-in").uncheck();
    await bar.locator(".playkeys > summary").click();
  await bar.locator("summary").click();
  await expectAccessible(page);
  await bar.getByLabel("Faster by").fill("40");
  await bar.locator("[name=clickway]").selectOption("off");
  await expect(bar.locator(".heardparts label:visible")).toHaveText(["strum", "chords", "click"]); // what the pattern has, and what is added
  await bar.getByRole("button", { name: "Play" }).click();
  await bar.getByLabel("Tempo", { exact: true }).fill("250");
  await bar.getByLabel("Tempo", { exact: true }).press("Enter");
  await expect(bar.getByLabel("Tempo", { exact: true })).toHaveValue("290", { timeout: 15_000 });
  await expect(bar.getByLabel("Tempo", { exact: true })).toHaveValue("300", { timeout: 15_000 }); // no faster than it goes
  const starts = () => page.evaluate(() => Alpine.$data(document.querySelector("[data-play]")).score.notes.map((note) => note.t));
  const straight = await starts();
  await bar.getByLabel("Eighth notes").selectOption("swung");
  await expect.poll(starts).not.toEqual(straight);
  await expect(bar.getByRole("button", { name: "Stop" })).toBeVisible();
  await bar.getByRole("button", { name: "Stop" }).click();
  await bar.getByLabel("Faster by").fill("");
  await bar.getByLabel(/grow: 1 bar/).check();
  await bar.getByRole("button", { name: "Play" }).click();
  await bar.getByRole("button", { name: "goal" }).click();
  await bar.getByLabel("Tempo", { exact: true }).fill("300");
  await bar.getByLabel("Tempo", { exact: true }).press("Enter");
  await expect(bar.locator(".playsaid")).toHaveText("One bar, twice.");
  await expect(bar.locator(".playsaid")).toHaveText("2 bars, twice.");
  await expect(bar.locator(".playsaid")).toHaveText("All of it.", { timeout: 15_000 });
  await expect(bar.locator(".playsaid")).toHaveText("All of it, without the click.", { timeout: 20_000 });
  await page.setViewportSize({ width: 844, height: 390 }); // a phone on its side
  await expectFits(page);
  expect((await bar.boundingBox()).height).toBeLessThan(390 * 0.75);
  await bar.locator("summary").click();
  expect((await bar.boundingBox()).height).toBeLessThan(80);
});

test("a device without sound gets a sentence", async ({ teacher: page }) => {
  await page.addInitScript(() => { window.AudioContext = class { constructor() { throw new Error("no device"); } }; });
  await page.goto("/patterns/thumb-once");
  const bar = page.getByRole("region", { name: "Play bar" });
  await bar.getByRole("button", { name: "Play" }).click();
  await expect(bar.getByRole("alert")).toHaveText(/This device gives no sound/);
  await expect(bar.getByRole("button", { name: "Play" })).toBeVisible();
});
