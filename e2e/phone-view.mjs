// How soon a student sees the day: on a processor slowed four times, with nothing kept, then again without
// a net. What was last seen is in docs/performance.md.
import { chromium } from "@playwright/test";
import config from "./playwright.config.mjs";
import { startServer } from "./server.mjs";

const times = 5;
const middle = (list) => list.sort((a, b) => a - b)[Math.floor(list.length / 2)];

const server = await startServer();
const browser = await chromium.launch(config.use.launchOptions);
try {
  const teacher = await browser.newPage({ baseURL: server.address });
  await teacher.goto("/signin");
  await teacher.getByLabel("Email").fill(server.email);
  await teacher.getByLabel("Password").fill(server.password);
  await teacher.getByRole("button", { name: "Sign in" }).click();
  await teacher.waitForURL("**/");
  await teacher.goto("/class/phones");
  const links = await teacher.locator("[data-copy]").evaluateAll((list) => list.map((button) => button.dataset.copy));
  const first = [];
  const again = [];
  let largest = 0;
  for (let n = 0; n < times; n++) {
    const context = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });
    const page = await context.newPage();
    const cdp = await context.newCDPSession(page);
    await cdp.send("Emulation.setCPUThrottlingRate", { rate: 4 });
    // The day is seen when the largest thing on the screen stands there, the open card: Largest Contentful
    // Paint (W3C, Largest Contentful Paint).
    const seen = async (go) => {
      const answer = await go();
      await page.waitForSelector(".daycard.on");
      await page.waitForTimeout(2500);
      const at = await page.evaluate(() => new Promise((resolve) => { new PerformanceObserver((list) => resolve(list.getEntries().at(-1).startTime)).observe({ type: "largest-contentful-paint", buffered: true }); }));
      return [at, answer];
    };
    const [at, answer] = await seen(() => page.goto(links[n % links.length]));
    first.push(at);
    largest = Math.max(largest, (await answer.body()).length);
    await page.waitForSelector("#main[data-kept]");
    await page.waitForTimeout(3000);
    await context.setOffline(true);
    again.push((await seen(() => page.reload()))[0]);
    await context.close();
  }
  console.log(`first view ${middle(first).toFixed(0)} ms, again without a net ${middle(again).toFixed(0)} ms (median of ${times}, processor slowed 4 times); ${(largest / 1000).toFixed(0)} kB of HTML`);
} finally {
  await browser.close();
  await server.stop();
}
