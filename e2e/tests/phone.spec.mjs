// The student's phone: from the code on paper to an entry that arrives once, with a net and without.
import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import jsQR from "jsqr";
import { test, expect, expectAccessible, expectFits } from "./arplin.mjs";

// codeOn prints a page and reads the QR code from a picture of the paper.
async function codeOn(page) {
  const folder = mkdtempSync(join(tmpdir(), "arplin-qr-"));
  writeFileSync(join(folder, "sheet.pdf"), await page.pdf({ preferCSSPageSize: true }));
  execFileSync("pdftoppm", ["-r", "200", "-singlefile", join(folder, "sheet.pdf"), join(folder, "sheet")]);
  const ppm = readFileSync(join(folder, "sheet.ppm")); // P6, width, height, 255, then bytes
  const [head, width, height] = ppm.subarray(0, 40).toString("latin1").match(/^P6\s+(\d+)\s+(\d+)\s+255\s/);
  const rgba = new Uint8ClampedArray(4 * width * height);
  for (let i = 0; i < width * height; i++) {
    for (let c = 0; c < 3; c++) rgba[4 * i + c] = ppm[head.length + 3 * i + c];
    rgba[4 * i + 3] = 255;
  }
  return jsQR(rgba, Number(width), Number(height))?.data;
}

const linkOf = async (page, student) => {
  await page.goto("/class/phones");
  return page.getByRole("button", { name: `Copy ${student}’s link` }).getAttribute("data-copy");
};

// aPhone is a browser of its own. Shifted, its clock is wrong by so many milliseconds.
async function aPhone(browser, { width = 390, height = 844, scheme = "light", shifted = 0 } = {}) {
  const context = await browser.newContext({ viewport: { width, height }, hasTouch: true, isMobile: true, colorScheme: scheme, reducedMotion: "reduce" });
  if (shifted) {
    await context.addInitScript((off) => {
      const Real = Date;
      window.Date = class extends Real {
        constructor(...given) { if (given.length) super(...given); else super(Real.now() + off); }
        static now() { return Real.now() + off; }
      };
    }, shifted);
  }
  await context.addInitScript(() => {
    window.opened = 0;
    const Real = window.AudioContext;
    window.AudioContext = class extends Real { constructor(...given) { super(...given); window.opened++; } };
  });
  const page = await context.newPage();
  const errors = [];
  page.on("pageerror", (e) => errors.push(e.message));
  page.on("console", (m) => { if (m.type() === "error" && !/^Failed to load resource/.test(m.text())) errors.push(m.text()); });
  return { context, page, errors };
}

const kept = (page) => expect(page.locator("#main")).toHaveAttribute("data-kept", /\d/, { timeout: 20_000 });
const foot = (page) => page.locator(".phonefoot .state");
const stepCard = (page) => page.locator("[data-kind=step]:visible").first();
async function openCard(card) {
  if (!(await card.evaluate((el) => el.classList.contains("on")))) await card.locator(".turnhead").tap();
}
async function done(card, tempo) {
  await openCard(card);
  await card.getByLabel("How fast was it clean?").fill(String(tempo));
  await card.getByRole("button", { name: "Done" }).tap();
}
// fromHome are the lines of a student's page that came from home, the newest first.
async function fromHome(page, id) {
  await page.goto(`/students/${id}`);
  const table = page.locator("h2", { hasText: "From home" }).locator("xpath=following-sibling::table[1]");
  return table.count().then((n) => (n ? table.locator("tbody tr").allInnerTexts() : []));
}

test("the code on the printed week opens the page; what is logged in a cellar arrives once", async ({ teacher: page, school, browser }) => {
  const id = school.students.Pia;
  await page.goto(`/students/${id}/week`);
  const link = await codeOn(page);
  expect(link).toBe(await linkOf(page, "Pia"));
  await page.goto(`${school.ladder}/sheet?student=${id}`);
  expect(await codeOn(page)).toBe(link);

  const { context, page: phone, errors } = await aPhone(browser);
  await phone.goto(link);
  await expect(phone.getByRole("heading", { level: 1 })).toHaveText(/^Today, \d+ minutes$/);
  await expect(phone.locator("body")).not.toContainText("Pia");
  await kept(phone);
  await context.setOffline(true);
  await phone.reload();
  await expect(phone.getByRole("heading", { level: 1 })).toHaveText(/^Today/);
  await done(stepCard(phone), 61);
  await expect(stepCard(phone).locator(".answer")).toHaveText("✓ 61");
  await expect(foot(phone)).toHaveText("kept on this phone");
  await phone.reload();
  await expect(stepCard(phone).locator(".answer")).toHaveText("✓ 61");
  await expect(foot(phone)).toHaveText("kept on this phone");
  expect(await fromHome(page, id)).toEqual([]);
  await context.setOffline(false);
  await expect(foot(phone)).toHaveText("with your teacher ✓", { timeout: 15_000 });
  await phone.reload();
  await phone.evaluate(() => window.dispatchEvent(new Event("online")));
  await expect(foot(phone)).toHaveText("with your teacher ✓");
  const lines = await fromHome(page, id);
  expect(lines).toHaveLength(1);
  expect(lines[0]).toMatch(/61\s+done/);

  // Another phone of the same student agrees.
  const other = await aPhone(browser, { width: 360, height: 640 });
  await other.page.goto(link);
  await expect(stepCard(other.page).locator(".answer")).toHaveText("✓ 61");
  expect([...errors, ...other.errors]).toEqual([]);
  await context.close();
  await other.context.close();
});

test("a wrong clock, a week that changed, a link that is turned off: nothing is lost and nothing is doubled", async ({ teacher: page, school, browser }) => {
  const id = school.students.Tomas;
  const link = await linkOf(page, "Tomas");
  const { context, page: phone } = await aPhone(browser, { shifted: 2 * 24 * 60 * 60 * 1000 });
  await phone.goto(link);
  await kept(phone);
  const old = await stepCard(phone).getAttribute("data-step");
  await context.setOffline(true);
  await done(stepCard(phone), 63);
  await expect(foot(phone)).toHaveText("kept on this phone");
  // Meanwhile the teacher moves the student on.
  await page.goto("/");
  const chip = page.getByRole("button", { name: /^Tomas, step/ });
  const before = Number((await chip.getAttribute("aria-label")).match(/step (\d+)/)[1]);
  await chip.press("ArrowRight");
  await expect(page.getByRole("button", { name: `Tomas, step ${before + 1}` })).toBeVisible();
  await context.setOffline(false);
  await expect(foot(phone)).toHaveText("with your teacher ✓", { timeout: 15_000 });
  const [line, ...more] = await fromHome(page, id);
  expect(more).toEqual([]);
  expect(line).toContain(`step ${before}`);
  const today = await page.evaluate(() => { const now = new Date(); return `${now.getDate()} ${now.toLocaleString("en", { month: "short" })}`; });
  expect(line, "on the day of the server").toContain(today);
  await phone.reload();
  await expect(phone.locator("[data-kind=step]:visible").first()).toBeVisible();
  expect(await phone.locator(`[data-kind=step][data-step="${old}"]`).count(), "the new week has replaced the old one").toBe(0);

  // Turned off while it is open.
  await page.goto("/class/phones");
  await page.getByRole("button", { name: "Turn off Tomas’s link" }).click();
  await expect(page.getByRole("status")).toContainText("Tomas’s link is off");
  await done(stepCard(phone), 64);
  await expect(foot(phone)).toContainText("This link has ended", { timeout: 15_000 });
  await phone.reload();
  await expect(phone.getByRole("heading", { level: 1 })).toHaveText("This link doesn’t open");
  await context.setOffline(true);
  expect(await phone.reload().then(() => true, () => false), "and the phone has forgotten the week").toBe(false);
  await context.setOffline(false);
  await context.close();
});

test("taps with known offsets are judged on the phone within 3 ms, without a net, too", async ({ teacher: page, browser }) => {
  const link = await linkOf(page, "Ilse");
  const { context, page: phone, errors } = await aPhone(browser);
  await phone.goto(link);
  await kept(phone);
  const card = phone.locator("[data-figure]:not([data-figure='']):visible").first();
  const tapped = async (place, off) => {
    await openCard(card);
    await card.getByRole("button", { name: "Tap it first" }).tap();
    await phone.getByRole("button", { name: "Start" }).tap();
    // Each tap has the time at which it is due, whenever this machine comes to it; one place always comes off.
    return phone.evaluate(async ([place, off]) => {
      const root = document.querySelector("#main");
      while (!root.dataset.zero) await new Promise((later) => setTimeout(later, 5));
      const { tapFigure, tapTempo, zero } = Alpine.$data(root);
      const bar = arplinDue(tapFigure, tapTempo);
      const slots = [...new Set(bar.due.filter((_, i) => i % 2 === 0))];
      const pads = [...document.querySelectorAll(".pad")];
      for (let n = 0; n < 6; n++) {
        for (let i = 0; i < bar.due.length; i += 2) {
          const tap = new PointerEvent("pointerdown", { bubbles: true, cancelable: true });
          Object.defineProperty(tap, "timeStamp", { value: zero + n * bar.bar + bar.due[i] + (bar.due[i] === slots[place] ? off : 0) });
          pads[bar.due[i + 1]].dispatchEvent(tap);
        }
      }
      while (!root.dataset.judged) await new Promise((later) => setTimeout(later, 20));
      const answer = JSON.parse(root.dataset.judged);
      delete root.dataset.judged;
      delete root.dataset.zero;
      return answer;
    }, [place, off]);
  };
  const early = await tapped(1, -45);
  expect(early.habits).toHaveLength(1);
  expect(Math.abs(early.habits[0].off + 45)).toBeLessThanOrEqual(3);
  await expect(phone.getByRole("status").filter({ hasText: "comes early" })).toContainText(/Even within \d+ ms\. .* comes early, \d+ ms each time\./);
  await expect(phone.locator(".tapdot.off")).toHaveCount(1);
  await expect(phone.getByRole("button", { name: /^Slower, \d+$/ })).toBeVisible();
  await phone.getByRole("button", { name: "Back", exact: true }).tap();
  await context.setOffline(true);
  await phone.reload();
  const late = await tapped(2, 50);
  expect(late.habits).toHaveLength(1);
  expect(Math.abs(late.habits[0].off - 50)).toBeLessThanOrEqual(3);
  expect(errors).toEqual([]);
  await context.close();
});

test("it plays after a touch and lights what sounds; what hurts is answered at once and reaches the teacher", async ({ teacher: page, browser }) => {
  const link = await linkOf(page, "Lotte");
  const { context, page: phone, errors } = await aPhone(browser);
  const answer = await phone.goto(link);
  expect((await answer.body()).length).toBeLessThan(60_000);
  await kept(phone);
  expect(await phone.evaluate(() => window.opened), "no sound before a touch").toBe(0);
  const card = stepCard(phone);
  await openCard(card);
  const play = card.getByRole("button", { name: /today’s tempo$/ });
  await play.tap();
  await expect(card.locator("svg .lit").first()).toBeVisible({ timeout: 15_000 });
  await expect(play).toHaveAttribute("aria-pressed", "true");
  await play.tap();
  await expect(play).toHaveAttribute("aria-pressed", "false");
  await card.getByLabel("How fast was it clean?").fill("fast");
  await card.getByRole("button", { name: "Done" }).tap();
  await expect(phone.getByRole("alert").filter({ hasText: "Write the tempo as a number" })).toBeVisible();
  await card.getByLabel("How fast was it clean?").fill("66");
  await card.getByRole("button", { name: "Done" }).tap();
  await phone.getByRole("button", { name: "Undo" }).tap();
  await expect(card.locator(".answer")).toBeEmpty();
  await phone.getByRole("button", { name: "It hurts" }).tap();
  await expect(phone.getByRole("heading", { name: "Stop for today" })).toBeVisible();
  await expect(foot(phone)).toHaveText("with your teacher ✓", { timeout: 15_000 });
  await page.goto("/");
  await expect(page.locator(".decide").first()).toContainText("Lotte comes first: said at home that it hurts");
  await page.goto("/lesson");
  await expect(page.locator(".fromhome")).toContainText("Lotte said it hurts: ask before anything is played.");
  await page.goto("/");
  await page.getByRole("button", { name: "Lotte: noted" }).click();
  await expect(page.locator(".decide", { hasText: "it hurts" })).toHaveCount(0);
  expect(errors).toEqual([]);
  await context.close();
});

for (const scheme of ["light", "dark"]) {
  test(`every view fits two phones and is read aloud, ${scheme}`, async ({ teacher: page, browser }) => {
    const link = await linkOf(page, "Wim");
    for (const [width, height] of [[390, 844], [360, 640]]) {
      const { context, page: phone } = await aPhone(browser, { width, height, scheme });
      await phone.goto(link);
      await openCard(stepCard(phone));
      await expectFits(phone);
      await expectAccessible(phone);
      const small = await phone.locator("button:visible, input:visible, summary:visible").evaluateAll((list) => list.map((el) => [el.textContent.trim() || el.name, el.closest("label") || el]).filter(([, el]) => el.getBoundingClientRect().height < 40).map(([name]) => name));
      expect(small, "too small for a thumb").toEqual([]);
      const tap = phone.locator(".daycard.on").getByRole("button", { name: "Tap it first" });
      if (await tap.count()) {
        await tap.tap();
        await expect(phone.locator(".pad")).toHaveCount(2);
        await expectFits(phone);
        await expectAccessible(phone);
        await phone.getByRole("button", { name: "Back", exact: true }).tap();
      }
      await phone.getByRole("button", { name: "Finish for today" }).tap();
      await expect(phone.getByRole("button", { name: "stopped at a change" })).toBeVisible();
      await expectFits(phone);
      await expectAccessible(phone);
      await context.close();
    }
  });
}
