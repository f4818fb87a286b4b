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
  patterns: "/patterns",
  bench: "/bench?from=thumb-two-bars",
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
  phone: async (page) => {
    await onPhone(page, async (phone) => {
      await phone.locator("[data-card]:visible").first().getByRole("button", { name: "Done" }).tap();
      await phone.locator(".phonefoot", { hasText: "with your teacher" }).waitFor({ timeout: 20_000 });
      await phone.locator(".told").waitFor({ state: "hidden" });
    });
  },
  "phone-tap": async (page) => {
    await onPhone(page, async (phone) => {
      const card = phone.locator("[data-kind=step]:visible").first();
      if (!(await card.evaluate((el) => el.classList.contains("on")))) await card.locator(".turnhead").tap();
      await phone.locator(".daycard.on").getByRole("button", { name: "Tap it first" }).tap();
      await phone.getByRole("button", { name: "Start" }).tap();
      await phone.evaluate(async () => { // one place comes early
        const root = document.querySelector("#main");
        while (!root.dataset.zero) await new Promise((later) => setTimeout(later, 5));
        const { tapFigure, tapTempo, zero } = Alpine.$data(root);
        const bar = arplinDue(tapFigure, tapTempo);
        const pads = [...document.querySelectorAll(".pad")];
        for (let n = 0; n < 6; n++) {
          for (let i = 0; i < bar.due.length; i += 2) {
            const tap = new PointerEvent("pointerdown", { bubbles: true, cancelable: true });
            Object.defineProperty(tap, "timeStamp", { value: zero + n * bar.bar + bar.due[i] - (i === 6 ? 42 : 0) + 6 * Math.sin(7 * i + n) });
            pads[bar.due[i + 1]].dispatchEvent(tap);
          }
        }
        while (!root.dataset.judged) await new Promise((later) => setTimeout(later, 20));
      });
    });
  },
  "phone-done": async (page) => {
    await onPhone(page, async (phone) => {
      await phone.context().setOffline(true);
      for (const card of await phone.locator("[data-card]:visible").all()) {
        if (!(await card.evaluate((el) => el.classList.contains("on")))) await card.locator(".turnhead").tap();
        const tempo = card.getByLabel("How fast was it clean?");
        if (await tempo.count()) await tempo.fill(String(Number(await tempo.getAttribute("placeholder")) + 2));
        await card.getByRole("button", { name: "Done" }).tap();
        await phone.waitForTimeout(300);
      }
      await phone.waitForTimeout(5000);
    });
  },
  "lesson-room": async (page) => {
    await page.goto("/lesson");
    await page.getByRole("button", { name: "Start the lesson" }).click();
    while (!(await page.getByRole("heading", { name: "group work" }).count())) {
      await page.keyboard.press("ArrowRight");
      await page.waitForTimeout(400);
    }
  },
};

// onPhone has a student's page stand for the view.
let shown = null;
async function onPhone(page, does) {
  await page.goto("/class/phones");
  const link = await page.getByRole("button", { name: "Copy Pia’s link" }).getAttribute("data-copy");
  const context = await page.context().browser().newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true, reducedMotion: "reduce" });
  shown = await context.newPage();
  await shown.goto(link);
  await shown.locator("[data-card]:visible").first().waitFor();
  await does(shown);
}

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
    const seen = shown || page;
    if (!shown && await page.locator(".playbar").count()) await page.locator("#play-tempo:enabled").waitFor({ timeout: 10_000 }).catch(() => {}); // a bar that has something to play knows its tempo
    await seen.evaluate(() => document.fonts.ready);
    await seen.screenshot({ path: join(folder, `${name}.png`), fullPage: ["sheet", "week"].includes(name) });
    await shown?.context().close();
    shown = null;
  }
} finally {
  await browser.close();
  await server.stop();
}
