// Remakes docs/screenshots from the demo data: one picture of each main view.
import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { chromium } from "@playwright/test";
import config from "./playwright.config.mjs";
import { startServer } from "./server.mjs";

const folder = join(import.meta.dirname, "../docs/screenshots");
const views = {
  desk: async (page) => { // while a line is typed
    await page.goto("/");
    await page.locator("#desk-lesson, [data-soon] .minutes").first().waitFor();
    await page.locator("#line").fill("pia 80, wim 66 x");
    await page.locator(".readchip").nth(1).waitFor();
  },
  song: async (page) => { // while it plays
    await page.goto("/songs/1?pattern=thumb-two-between");
    await page.locator(".playkeys > summary").click();
    await page.getByLabel("count-in").uncheck();
    await page.locator(".playkeys > summary").click();
    await page.getByRole("button", { name: "Play" }).click();
    await page.locator(".onebar.lit .count.lit").filter({ hasText: "3" }).first().waitFor();
  },
  "new-song": async (page) => {
    await page.goto("/songs/new");
    await page.locator("#text").fill("A Lantern for the Quay\n\nVerse 1:\nC                   Am\nLight the lantern, on the quay,\nF                     G7\nall the boats are home but three.\n\nVerse 2:\nSalt has eaten through the rope,\nsomeone rows on bread and hope.\n\nChorus:\n|: F | C |1. G7 | G7 :|2. G7 | C ||\n");
    await page.getByRole("heading", { name: "A Lantern for the Quay" }).waitFor();
  },
  keys: "/songs/1/keys",
  patterns: "/patterns",
  bench: "/bench?from=thumb-two-bars",
  series: "/term/series?figure=downs-on-the-beat&figure=down-up-eighths&figure=down-down-up-down-up&figure=common-strum&over=I+vi+IV+V&key=G&instrument=ukulele",
  ladder: async (page) => {
    await page.goto("/ladders/2");
    await page.locator(".step").nth(6).click();
    await page.locator(".openstep[aria-label='Step 5']").waitFor();
  },
  together: async (page) => {
    await page.goto("/ladders/2/together");
    await page.keyboard.press(" ");
    await page.locator(".barcell.on .mark.lit").nth(3).waitFor();
  },
  melody: "/songs/4/melody",
  grow: "/ladders/4/grow",
  drill: "/songs/1/drill?pattern=thumb-two-between&bar=3",
  sheet: "/ladders/2/sheet?student=6",
  student: "/students/1",
  week: "/students/4/week",
  lesson: "/lesson",
  term: "/term",
  class: "/class",
  "lesson-room": async (page) => {
    await page.goto("/lesson");
    await page.getByRole("button", { name: "Start the lesson" }).click();
    while (!(await page.getByRole("heading", { name: "group work" }).count())) {
      await page.keyboard.press("ArrowRight");
      await page.waitForTimeout(400);
    }
  },
};

mkdirSync(folder, { recursive: true });
const server = await startServer();
const browser = await chromium.launch(config.use.launchOptions);
try {
  const page = await browser.newPage({ baseURL: server.address, viewport: config.use.viewport, reducedMotion: "reduce" });
  await page.goto("/signin");
  await page.getByLabel("Email").fill(server.email);
  await page.getByLabel("Password").fill(server.password);
  await page.getByRole("button", { name: "Sign in" }).click();
  await page.waitForURL("**/");
  for (const [name, view] of Object.entries(views)) {
    if (typeof view === "string") await page.goto(view);
    else await view(page);
    await page.evaluate(() => document.fonts.ready);
    await page.screenshot({ path: join(folder, `${name}.png`), fullPage: ["sheet", "week"].includes(name) });
  }
} finally {
  await browser.close();
  await server.stop();
}
