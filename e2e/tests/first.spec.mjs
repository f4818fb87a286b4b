// The first hour: an invitation, a class to look around in, from a pasted song to a printed sheet;
// one search, help beside the page, and room for fingers.
import { test, expect, expectAccessible, expectFits, expectOnePage } from "./arplin.mjs";

test("a link makes one account; the sample class comes and goes with one click each", async ({ page, teacher: _, school, browser }) => {
  await page.goto("/help/start");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("First hour");
  const guest = await (await browser.newContext()).newPage();
  await guest.goto("/invite/nothing-that-was-ever-made");
  await expect(guest.getByRole("heading", { level: 1 })).toHaveText("Page not found");
  // Who does not run the school invites nobody.
  await page.goto("/account");
  await expect(page.getByRole("button", { name: "Invite a teacher" })).toHaveCount(0);
  await page.goto("/");
  const token = await page.locator("[name=_csrf]").first().inputValue();
  expect((await page.request.post("/account/invite", { form: { _csrf: token } })).status()).toBe(404);
  expect(school.email).toContain("@");
});

test("a sample class is added, used and removed, and leaves the teacher's own alone", async ({ teacher: page, school }) => {
  await page.goto("/");
  const token = await page.locator("[name=_csrf]").first().inputValue();
  await page.request.post("/sample", { form: { _csrf: token, form_key: "sample-0123456789abcdef" } });
  await page.goto("/");
  await expect(page.getByRole("button", { name: "Class: Sample class" })).toBeVisible();
  await expect(page.locator(".decide").first()).toContainText("needs a rest");
  await expect(page.locator(".columns .chip")).toHaveCount(9);
  await expectAccessible(page);
  await page.getByLabel("Log", { exact: true }).fill("pia 80, wim 70 x");
  await expect(page.locator(".readchip")).toHaveText([/Pia 80, clean/, /Wim 70, not clean/]);
  await page.getByLabel("Log", { exact: true }).press("Enter");
  await expect(page.getByRole("status")).toContainText("Pia: 80, clean");
  await page.goto("/class");
  await page.getByRole("button", { name: "Remove the sample class" }).click();
  await expect(page.getByRole("button", { name: "Class: Tuesday evening" })).toBeVisible();
  await page.goto(school.ladder);
  await expect(page.locator(".step")).toHaveCount(11);
});

test("from sign-in to a printed sheet of a pasted song in eight actions", async ({ teacher: page }) => {
  let actions = 0;
  const act = async (does) => { actions++; await does; };
  await act(page.goto("/songs/new"));
  await act(page.getByLabel("Chord sheet").fill("{title: The Gate}\n[C]Down to the [Am]gate and [F]home a[G7]gain"));
  await act(page.getByRole("button", { name: "Save song" }).click());
  await act(page.getByLabel(/^Pattern in/).selectOption({ index: 3 }));
  await act(page.getByRole("button", { name: "Create ladder" }).click());
  await act(page.locator(".proposal button").click());
  await act(page.getByRole("link", { name: "Print sheets" }).click());
  await expect(page.locator(".sheet").first()).toBeVisible();
  expect(actions + 1, "and Print").toBeLessThanOrEqual(8);
});

test("one field finds people, songs, patterns, ladders and pages; ? opens help", async ({ teacher: page }) => {
  await page.goto("/songs");
  await page.keyboard.press("/");
  await page.keyboard.type("umbr");
  await expect(page.locator("#found")).toContainText("Nine Umbrellas");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/(songs|ladders)\/\d+/);
  await page.goto("/find?q=pia");
  await expect(page.getByRole("link", { name: "Pia" }).first()).toBeVisible();
  await expectAccessible(page);
  await page.goto("/find?q=nothing like this");
  await expect(page.getByText("Nothing found for")).toBeVisible();
  await page.goto("/ladders");
  await page.keyboard.press("?");
  await expect(page.locator("#help")).toContainText("A ladder is the way to a pattern on its song");
  await page.goto("/help/keys");
  await expect(page.getByRole("row", { name: /search/ })).toBeVisible();
  await expectAccessible(page);
  await page.setViewportSize({ width: 360, height: 800 });
  await expectFits(page);
});

test("the desk of nine fits one screen, and a name moves on its columns", async ({ teacher: page, school }) => {
  await page.goto("/");
  const bar = await page.locator(".playbar").boundingBox();
  const last = await page.locator(".desklog tbody tr").last().boundingBox();
  expect(last.y + last.height).toBeLessThanOrEqual(bar.y);
  await page.locator(`#who-${school.students.Pia} .tempo-in`).press("=");
  await expect(page.getByText("Nothing is suggested right now."), "a key that does nothing says so").toBeVisible();
  const jonas = page.locator(`#chip-${school.students.Jonas}`);
  await jonas.focus();
  await page.keyboard.press("ArrowRight");
  await expect(page.getByRole("status")).toContainText("Jonas is on step 2 now.");
  await expect(jonas).toBeFocused();
  await page.getByRole("status").getByRole("button", { name: "Undo" }).click();
  await expect(page.locator(`#who-${school.students.Jonas} .stepno`)).toHaveText("1");
});

const pages = (school) => ["/", "/lesson", "/term", "/songs", school.umbrellas, "/patterns", "/ladders", school.ladder, "/class", `/students/${school.students.Pia}`, "/files", "/account", "/tune", "/bench", `${school.umbrellas}/melody`, `${school.ladder}/sheet`, "/songs/new", "/help/desk"];

test("nothing to press is lower than 40 px on touch, overlaps, or makes a page scroll sideways", async ({ browser, teacher: page, school }) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true, storageState: await page.context().storageState() });
  const phone = await context.newPage();
  for (const path of pages(school)) {
    await phone.goto(path);
    const found = await phone.evaluate(() => {
      const shown = (el) => el.offsetParent && el.getBoundingClientRect().width > 0 && !el.closest(".visually-hidden, .visually-hidden-focusable, .dropdown-menu, .offcanvas, .offcanvas-md, details:not([open]) > :not(summary), [aria-hidden=true]");
      const list = Array.from(document.querySelectorAll("button, summary, select, .btn, .chip, input:not([type=hidden], [type=checkbox], [type=radio], [type=range])")).filter(shown);
      const name = (el) => `${el.tagName} ${(el.innerText || el.name || el.className).slice(0, 30)}`;
      const small = list.filter((el) => el.getBoundingClientRect().height < 39.5).map(name);
      const bar = document.querySelector(".playbar");
      const over = [];
      list.forEach((a, i) => list.slice(i + 1).forEach((b) => {
        if (a.contains(b) || b.contains(a) || (bar && bar.contains(a) !== bar.contains(b))) return;
        const [x, y] = [a.getBoundingClientRect(), b.getBoundingClientRect()];
        if (Math.min(x.right, y.right) - Math.max(x.left, y.left) > 2 && Math.min(x.bottom, y.bottom) - Math.max(x.top, y.top) > 2) over.push(`${name(a)} / ${name(b)}`);
      }));
      const lowest = Math.max(...list.filter((el) => !bar?.contains(el)).map((el) => el.getBoundingClientRect().bottom + scrollY));
      const under = bar && lowest > document.documentElement.scrollHeight - bar.offsetHeight ? [`something lies under the play bar at the end of the page`] : [];
      const wide = document.documentElement.scrollWidth > innerWidth ? [`${document.documentElement.scrollWidth} px wide`] : [];
      return [...small, ...over, ...under, ...wide];
    });
    expect(found, path).toEqual([]);
  }
  await context.close();
});
