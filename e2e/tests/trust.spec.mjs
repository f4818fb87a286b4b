// Moments in which work was once lost: a second tab, a double click, a lost line,
// a form that is too old, a sign-out elsewhere.
import { test, expect, expectAccessible, expectFits, late, demo } from "./arplin.mjs";

test("undo in one tab leaves another tab's edit alone, and shows both", async ({ teacher: page, school }) => {
  await page.goto(school.ferry);
  await page.locator(".onebar").first().focus();
  await page.keyboard.press("i");
  await expect(page.getByRole("status")).toContainText("Undo");
  const other = await page.context().newPage();
  await other.goto(school.ferry);
  await other.locator(".onebar").nth(2).focus();
  await other.keyboard.press("Delete");
  await expect(other.getByRole("status")).toContainText("Undo");
  const bars = await other.locator(".onebar").count();
  await page.getByRole("status").getByRole("button", { name: "Undo" }).click();
  await expect(page.locator(".clash")).toContainText("undo this window’s last change");
  await expect(page.locator(".clash")).toContainText("last change: ");
  await expect(page.locator(".onebar")).toHaveCount(bars);
  await expectAccessible(page);
  await expectFits(page);
});

test("a line that was changed after it was lost is another line", async ({ teacher: page }) => {
  await page.goto("/");
  const line = page.getByLabel("Log", { exact: true });
  const id = page.locator(".logline [name=client_id]");
  const first = await id.inputValue();
  await page.route("**/log", (route) => route.abort());
  await line.fill("pia 71");
  const typed = await id.inputValue();
  expect(typed).not.toBe(first);
  await page.keyboard.press("Enter");
  await expect(page.getByText("You’re offline.")).toBeVisible();
  expect(await id.inputValue()).toBe(typed); // the same line again is the same line
  await page.unroute("**/log");
  await line.fill("pia 73");
  expect(await id.inputValue()).not.toBe(typed);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("status")).toContainText("Pia: 73, clean");
});

test("a form that is too old is sent again from the page that says so", async ({ teacher: page }) => {
  await page.goto("/songs/new");
  await page.getByLabel("Title").fill("A long evening");
  await page.locator("textarea[name=text]").fill("[C]all of [G7]it stays");
  await page.evaluate(() => { for (const token of document.querySelectorAll("[name=_csrf]")) token.value = "of another time"; });
  await page.getByRole("button", { name: "Save song" }).click();
  await expect(page.getByRole("heading", { name: "Please send it again" })).toBeVisible();
  await expect(page.getByText("[C]all of [G7]it stays")).toBeVisible();
  await expectAccessible(page);
  await expectFits(page);
  await page.getByRole("button", { name: "Send it again" }).click();
  await expect(page.getByRole("heading", { name: "A long evening" })).toBeVisible();
});

test("signed out elsewhere, what was typed waits for the sign-in", async ({ teacher: page, school }) => {
  await page.goto("/class");
  await page.getByLabel("First name or nickname").fill("Tove");
  const other = await page.context().newPage();
  await other.goto("/account");
  await other.locator("form[action='/signout'] button").first().evaluate((button) => button.click());
  await expect(other.getByLabel("Password")).toBeVisible();
  await page.getByRole("button", { name: "Add", exact: true }).click();
  await expect(page.getByRole("heading", { name: "You are signed out" })).toBeVisible();
  await expect(page.getByText("Tove")).toBeVisible();
  await other.getByLabel("Email").fill(school.email);
  await other.getByLabel("Password").fill(demo.password);
  await other.getByRole("button", { name: "Sign in" }).click();
  await expect(other.getByRole("link", { name: "Desk" })).toBeVisible();
  await page.getByRole("button", { name: "Send it again" }).click();
  await expect(page.getByRole("rowheader", { name: "Tove" })).toBeVisible();
});

test("a double click makes one student", async ({ teacher: page }) => {
  await page.goto("/class");
  await page.getByLabel("First name or nickname").fill("Tove");
  await late(page, "**/students", 300);
  await page.locator("form[action$='/students']").evaluate((form) => { form.submit(); form.submit(); });
  await expect(page.getByRole("rowheader", { name: "Tove" })).toHaveCount(1);
  await page.goto("/class");
  await expect(page.getByRole("rowheader", { name: "Tove" })).toHaveCount(1);
  await expect(page.getByText("There’s already")).toHaveCount(0);
});

test("another password signs the other browser out", async ({ teacher: page, school, browser }) => {
  const elsewhere = await (await browser.newContext()).newPage();
  await elsewhere.goto(`${demo.address}/signin`);
  const signIn = async (on, password) => {
    await on.getByLabel("Email").fill(school.email);
    await on.getByLabel("Password").fill(password);
    await on.getByRole("button", { name: "Sign in" }).click();
  };
  await signIn(elsewhere, demo.password);
  await expect(elsewhere.getByRole("link", { name: "Desk" })).toBeVisible();
  await page.goto("/account");
  await page.getByLabel("Current password").fill(demo.password);
  await page.getByLabel(/^New password/).fill("another one, longer");
  await page.getByRole("button", { name: "Change password" }).click();
  await expect(page.getByRole("status")).toContainText("Password changed.");
  await expectAccessible(page);
  await elsewhere.reload();
  await expect(elsewhere.getByLabel("Password")).toBeVisible();
  await signIn(elsewhere, "another one, longer");
  await expect(elsewhere.getByRole("link", { name: "Desk" })).toBeVisible();
});
