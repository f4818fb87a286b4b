// Remakes docs/screenshots from the demo data: one picture of each main view.
import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { chromium } from "@playwright/test";
import config from "./playwright.config.mjs";
import { startServer } from "./server.mjs";

const folder = join(import.meta.dirname, "../docs/screenshots");
const views = {
  desk: "/",
  song: "/songs/1",
  "song-strips": "/songs/1?pattern=thumb-two-between",
  "song-ukulele-strums": "/songs/2?pattern=six-eight-strum&instrument=ukulele",
  "new-song": "/songs/new",
  "song-shapes": "/songs/1?chord=F#chord",
  keys: "/songs/1/keys",
  patterns: "/patterns",
  pattern: "/patterns/zones-strum",
  compare: "/patterns/compare?a=common-strum&b=down-up-eighths",
  bench: "/bench?from=thumb-two-bars",
  "song-around": ["/songs/1?pattern=thumb-two-between", ".around"],
  ladder: ["/ladders/1", '.step[data-step="6"]'],
  drill: "/songs/1/drill?pattern=thumb-two-between&bar=3",
  sheet: "/ladders/1/sheet?step=5&student=6",
  class: "/class",
  weights: "/class/weights?touch=2&independence=1.5",
  "drill-change": "/songs/1/drill?pattern=thumb-two-between",
};

mkdirSync(folder, { recursive: true });
const server = await startServer();
const browser = await chromium.launch(config.use.launchOptions);
try {
  const page = await browser.newPage({ baseURL: server.address, viewport: config.use.viewport, reducedMotion: "reduce" });
  await page.goto("/signin");
  await page.getByLabel("Mail address").fill(server.email);
  await page.getByLabel("Password").fill(server.password);
  await page.getByRole("button", { name: "Sign in" }).click();
  await page.waitForURL("**/");
  for (const [name, view] of Object.entries(views)) {
    const [path, from] = [view].flat(); // from: the picture begins there
    await page.goto(path);
    await page.evaluate(() => document.fonts.ready);
    if (from) await page.locator(from).evaluate((element) => element.scrollIntoView({ behavior: "instant" }));
    await page.screenshot({ path: join(folder, `${name}.png`), fullPage: name === "sheet" });
  }
} finally {
  await browser.close();
  await server.stop();
}
