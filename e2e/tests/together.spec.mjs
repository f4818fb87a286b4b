// The room: the class's steps under one count; and tuning up, by ear and by microphone.
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium } from "@playwright/test";
import { args, executablePath } from "../browser.mjs";
import { test, expect, demo, expectAccessible } from "./arplin.mjs";

test("the class plays its steps together, by keys", async ({ teacher: page, school }) => {
  await page.goto("/");
  await page.getByRole("link", { name: "Together" }).click();
  const room = page.locator("#together");
  const lanes = room.locator("[data-lane]");
  await expect(lanes.nth(2)).toBeVisible();
  await expect(room.locator(".aheadbar.on .bigchords")).toHaveText("C");
  await expectAccessible(page);
  await expect(room.locator("[data-lanes]")).not.toContainText(/step|level/i); // parts, never levels: before the keys are opened
  await expect(room.locator("[data-names]").first()).toBeHidden();
  await page.keyboard.press("n");
  await expect(room.locator("[data-names]").first()).toBeVisible();

  // A page turner begins; this bar and the next go on in turns.
  await page.keyboard.press("PageDown");
  await expect(room.getByRole("button", { name: "Stop" })).toBeVisible();
  for (let i = 0; i < 60; i++) await page.keyboard.press("+");
  await expect(room.locator("[data-ahead]").nth(1)).toHaveClass(/on/, { timeout: 15_000 });
  await expect(room.locator("[data-ahead]").nth(0).locator(".bigchords")).toHaveText("F"); // the third bar is already there
  await expect(lanes.nth(0).locator(".lit").first()).toBeVisible();

  // A lane is muted, another alone, and one is handed another step while it plays.
  await page.keyboard.press("1");
  await expect(lanes.nth(0)).toHaveClass(/silent/);
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("s");
  await expect(lanes.nth(0)).not.toHaveClass(/silent/);
  await expect(lanes.nth(1)).toHaveClass(/silent/);
  await page.keyboard.press("s");
  await page.keyboard.press("1");
  await expect(room.locator(".silent")).toHaveCount(0);
  const was = await lanes.nth(0).getAttribute("data-step");
  const notes = () => page.evaluate(() => Alpine.$data(document.querySelector("#together")).score.notes.length);
  const before = await notes();
  await page.keyboard.press("ArrowRight");
  await expect(lanes.nth(0)).not.toHaveAttribute("data-step", was);
  await expect.poll(notes).toBeGreaterThan(before);
  await expect(lanes.nth(0)).toBeFocused();
  await expect(room.getByRole("button", { name: "Stop" })).toBeVisible();
  await page.keyboard.press("ArrowLeft");
  await expect(lanes.nth(0)).toHaveAttribute("data-step", was);
  await page.keyboard.press("r");
  await expect(room.getByRole("button", { name: "loop section" })).toHaveAttribute("aria-pressed", "true");
  await page.keyboard.press("PageUp");
  await expect(room.locator(".aheadbar.on .bigchords")).toHaveText("C");
  await page.keyboard.press(" ");
  await expect(room.getByRole("button", { name: "Play" })).toBeVisible();

  // Guitars and ukuleles are in one key: each voice has its own strings.
  const strings = await page.evaluate(() => [...new Set(Alpine.$data(document.querySelector("#together")).score.lanes)].sort());
  expect(strings).toEqual(["guitar", "ukulele"]);
  await page.route("**/score**", (route) => route.abort());
  await page.goto(`${school.ladder}/together`);
  await expect(room.getByRole("alert")).toHaveText(/couldn’t load/);
});

// A tone of a guitar's third string, some cents off, as a file that the browser hears.
function heardTone(hertz, cents) {
  const rate = 48000;
  const samples = new Int16Array(rate * 2);
  const pitch = hertz * 2 ** (cents / 1200);
  samples.forEach((_, i) => {
    let x = 0;
    for (let k = 1; k < 9; k++) x += Math.sin(2 * Math.PI * pitch * k * i / rate) / k ** 1.2 * Math.exp(-k * i / rate / 2);
    samples[i] = 9000 * x;
  });
  const head = Buffer.alloc(44);
  head.write("RIFF", 0); head.write("WAVEfmt ", 8); head.write("data", 36);
  [[4, 36 + samples.byteLength], [16, 16], [24, rate], [28, rate * 2], [40, samples.byteLength]].forEach(([at, x]) => head.writeUInt32LE(x, at));
  [[20, 1], [22, 1], [32, 2], [34, 16]].forEach(([at, x]) => head.writeUInt16LE(x, at));
  const path = join(mkdtempSync(join(tmpdir(), "arplin-tone-")), "tone.wav");
  writeFileSync(path, Buffer.concat([head, Buffer.from(samples.buffer)]));
  return path;
}

for (const [string, instrument, hertz, cents] of [["G3", "guitar", 196, -5], ["E2", "guitar", 82.4069, 5], ["A4", "ukulele", 440, 0]]) {
  test(`the tuner hears ${string} of a ${instrument}, ${cents} cents off`, async ({ teacher: page, school: _ }) => {
    const state = await page.context().storageState();
    const browser = await chromium.launch({
      executablePath,
      args: [...args, "--use-fake-ui-for-media-stream", "--use-fake-device-for-media-stream", `--use-file-for-fake-audio-capture=${heardTone(hertz, cents)}`],
    });
    const ear = await (await browser.newContext({ baseURL: demo.address, storageState: state })).newPage();
    await ear.goto(`/tune?instrument=${instrument}`);
    await ear.getByRole("button", { name: "Listen", exact: true }).click();
    const says = ear.locator(".tunersays");
    await expect(says).toHaveText(cents === 0 ? `${string} is in tune.` : new RegExp(`^${string} is [456] cents too ${cents < 0 ? "low" : "high"}`), { timeout: 20_000 });
    await expect.poll(async () => Math.abs(Number(await ear.locator(".tuner").getAttribute("data-cents")) - cents)).toBeLessThan(1.5);
    await expect(ear.locator(".openstring.on")).toHaveText(string);
    await ear.getByRole("button", { name: "Stop listening" }).click();
    await expect(says).toHaveText("");
    await browser.close();
  });
}

test("without a microphone there is a sentence, and tones to tune to by ear", async ({ teacher: page }) => {
  await page.goto("/tune?instrument=baritone");
  await expectAccessible(page);
  await page.getByRole("button", { name: "Listen", exact: true }).click();
  await expect(page.locator(".tuner").getByRole("alert")).toHaveText(/microphone/);
  await page.getByRole("button", { name: "Play D3" }).click();
  await expect(page.locator("[data-name=D3]")).toHaveAttribute("data-heard", "yes");
});
