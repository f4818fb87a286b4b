// What the tests share: a signed-in page that notices every request that leaves
// the machine and every error on the console.
import { execFileSync } from "node:child_process";
import { mkdirSync, mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { test as base, expect } from "@playwright/test";
import AxeBuilder from "@axe-core/playwright";

export const demo = JSON.parse(process.env.ARPLIN_E2E);

export const test = base.extend({
  baseURL: demo.address,
  watched: async ({ page }, use) => {
    const outside = [];
    const errors = [];
    page.on("request", (r) => { if (!r.url().startsWith(demo.address) && !r.url().startsWith("data:")) outside.push(r.url()); });
    // The browser and htmx report a refused form (401, 404, 422) and a lost line as
    // errors; the tests look at what the page says of it instead.
    page.on("console", (m) => { if (m.type() === "error" && !/^(Failed to load resource|htmx:|Response Status Error)/.test(m.text())) errors.push(m.text()); });
    page.on("pageerror", (e) => errors.push(e.message));
    await use();
    expect(outside, "requests that leave the machine").toEqual([]);
    expect(errors, "errors on the console").toEqual([]);
  },
  // A school of the test's own: its teacher, and the numbers of what is in it.
  school: async ({ page, watched }, use) => {
    const email = await signIn(page);
    const ids = async (path, pattern) => Object.fromEntries(Array.from((await (await page.request.get(path)).text()).matchAll(pattern), (m) => [m.groups.name, m.groups.id]));
    const songs = await ids("/songs", /href="\/songs\/(?<id>\d+)">(?<name>[^<]+)</g);
    const ladders = await ids("/ladders", /href="\/ladders\/(?<id>\d+)">(?<name>[^<]+)</g);
    const students = await ids("/class", /student=(?<id>\d+)#add"\s+aria-label="Edit (?<name>[^"]+)"/g);
    const steps = (await (await page.request.get(`/ladders/${ladders["Nine Umbrellas"]}`)).text()).matchAll(/id="step-(\d+)"/g);
    await use({
      email, umbrellas: `/songs/${songs["Nine Umbrellas"]}`, ferry: `/songs/${songs["The Baker&#39;s Ferry"]}`, frost: `/songs/${songs["Frost on the Garden Gate"]}`, lamps: `/songs/${songs["Lamps on Lantern Street"]}`,
      ladder: `/ladders/${ladders["Nine Umbrellas"]}`, students, steps: Array.from(steps, (m) => m[1]).reverse(),
    });
  },
  teacher: async ({ page, school: _ }, use) => use(page),
  // A page of another teacher, in a school of their own.
  another: async ({ browser }, use) => {
    const context = await browser.newContext();
    const page = await context.newPage();
    await signIn(page);
    await use(page);
    await context.close();
  },
});

// signIn sends the form that tests of its page fill in: two pages less, a hundred times.
async function signIn(page) {
  const email = `${nextSchool()}.${demo.email}`;
  const form = await (await page.request.get(`${demo.address}/signin`)).text();
  const answer = await page.request.post(`${demo.address}/signin`, { form: { _csrf: form.match(/name="_csrf" value="([^"]+)"/)[1], email, password: demo.password }, maxRedirects: 0 });
  expect(answer.headers().location, await answer.text()).toBe("/");
  return email;
}

// nextSchool is a number that no other test has, whichever process it runs in.
function nextSchool() {
  for (let n = 1; ; n++) {
    try {
      mkdirSync(join(demo.taken, String(n)));
      return n;
    } catch (taken) {
      if (taken.code !== "EEXIST") throw taken;
    }
  }
}

// late has answers to a path come late, as on a slow line.
export async function late(page, path, ms) {
  await page.route(path, async (route) => {
    await new Promise((later) => setTimeout(later, ms));
    await route.continue();
  });
}

// A picture is one thing to a reader (role img with a label), so axe need not walk
// through its hundreds of lines. No page has a frame, so what axe found is read where it
// was found (its "legacy mode") and not carried over to a second page first: a third of the time.
export async function expectAccessible(page, ...rules) {
  expect(page.frames().length, "frames").toBe(1);
  const axe = new AxeBuilder({ page }).exclude(rules.length ? "svg" : "svg > *").options({ resultTypes: ["violations"], preload: false }).setLegacyMode(true);
  const result = await (rules.length ? axe.withRules(rules) : axe).analyze();
  expect(result.violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target).join(" ")}`)).toEqual([]);
}

// minutesOf sums the minutes of a lesson's band.
export async function minutesOf(band) {
  return (await band.locator("b").allTextContents()).reduce((sum, minutes) => sum + Number(minutes), 0);
}

// A page must not scroll sideways.
export async function expectFits(page) {
  expect(await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)).toBeLessThanOrEqual(0);
}

// The paper is so many pages of A4.
export const expectOnePage = (page) => expectPages(page, 1);
export async function expectPages(page, n) {
  const pdf = join(mkdtempSync(join(tmpdir(), "arplin-pdf-")), "sheet.pdf");
  writeFileSync(pdf, await page.pdf({ preferCSSPageSize: true }));
  const info = execFileSync("pdfinfo", [pdf], { encoding: "utf8" });
  expect(info).toMatch(new RegExp(`Pages:\\s+${n}\n`));
  expect(info).toContain("A4");
}

export { expect };
