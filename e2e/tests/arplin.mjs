// What the tests share: a signed-in page that notices every request that leaves
// the machine and every error on the console.
import { execFileSync } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
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
    // The browser reports a refused form (401, 404, 422) as a failed load; the
    // tests look at what the page says of it instead.
    page.on("console", (m) => { if (m.type() === "error" && !m.text().startsWith("Failed to load resource")) errors.push(m.text()); });
    page.on("pageerror", (e) => errors.push(e.message));
    await use();
    expect(outside, "requests that leave the machine").toEqual([]);
    expect(errors, "errors on the console").toEqual([]);
  },
  teacher: async ({ page, watched }, use) => {
    await page.goto("/signin");
    await page.getByLabel("Mail address").fill(demo.email);
    await page.getByLabel("Password").fill(demo.password);
    await page.getByRole("button", { name: "Sign in" }).click();
    await expect(page.getByRole("heading", { name: "Tuesday evening" })).toBeVisible();
    await use(page);
  },
});

// A picture is one thing to a reader (role img with a label), so axe need not walk
// through its hundreds of lines.
export async function expectAccessible(page) {
  const result = await new AxeBuilder({ page }).exclude("svg > *").analyze();
  expect(result.violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target).join(" ")}`)).toEqual([]);
}

// A page must not scroll sideways.
export async function expectFits(page) {
  expect(await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)).toBeLessThanOrEqual(0);
}

// The paper is one page of A4.
export async function expectOnePage(page) {
  const pdf = join(mkdtempSync(join(tmpdir(), "arplin-pdf-")), "sheet.pdf");
  writeFileSync(pdf, await page.pdf({ preferCSSPageSize: true }));
  const info = execFileSync("pdfinfo", [pdf], { encoding: "utf8" });
  expect(info).toMatch(/Pages:\s+1\n/);
  expect(info).toContain("A4");
}

export { expect };
