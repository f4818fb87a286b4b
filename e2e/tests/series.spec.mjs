// A series: proposed for the class, then five figures of one's own over a progression of one's own, printed.
import { test, expect, expectAccessible, expectOnePage } from "./arplin.mjs";

test("five patterns of one's own over I vi IV V in G for ukulele become a printed page", async ({ teacher: page, school }) => {
  await page.goto("/term");
  await page.getByRole("link", { name: /pattern series/ }).click();
  const weeks = page.locator(".series > li");
  await expect(weeks).toHaveCount(5);
  await expect(page.getByText(/It starts/)).toBeVisible();
  await page.locator("select[name=key]").selectOption("G");
  await expect(weeks.first()).toContainText("G |");
  await expect(page.locator("select[name=key]")).toHaveValue("G");

  await page.getByText("Choose the patterns yourself").click();
  await expect(page.getByLabel("Week 1", { exact: true })).toBeVisible(); // it comes when it is opened
  const own = ["downs-on-the-beat", "down-up-eighths", "down-down-up-down-up", "common-strum"];
  for (const [i, id] of own.entries()) {
    await page.getByLabel(`Week ${i + 1}`, { exact: true }).selectOption(id);
    await expect(page.getByLabel(`Week ${i + 1}`, { exact: true })).toHaveValue(id);
    await expect(page.locator("select[name=pattern]")).toHaveValue("");
  }
  await page.getByLabel("One more").selectOption("chuck-strum");
  await expect(weeks).toHaveCount(6); // with the coloured one

  const over = page.locator("input[name=over]:not([type=hidden])");
  await over.fill("I vi IV H");
  await over.press("Enter");
  await expect(page.getByText("“H” is neither a chord nor a degree")).toBeVisible();
  await expect(over).toHaveValue("I vi IV H"); // what was typed is kept
  await over.fill("I vi IV V");
  await over.press("Enter");
  await expect(weeks.nth(4)).toContainText("G | Em | C | D");
  await expect(weeks.nth(5)).toContainText("Gmaj7 | Em7 | Cmaj7 | D7");
  await page.locator("select[name=colour]").selectOption("dominant");
  await expect(weeks.nth(5)).toContainText("G7 | E7 | C7 | D7");
  await page.locator("select[name=instrument]").selectOption("ukulele");
  await expect(page.getByText(/levels on Ukulele/)).toBeVisible();
  for (const [i, id] of own.entries()) await expect(page.getByLabel(`Week ${i + 1}`, { exact: true })).toHaveValue(id);
  await expectAccessible(page);
  await expectOnePage(page);

  await page.getByRole("button", { name: "Use for this term" }).click();
  await expect(page.getByRole("heading", { name: "Pattern of the week" })).toBeVisible();
  await expect(weeks).toHaveCount(6);
  await expect(weeks.first()).toContainText("this week");
  await expectAccessible(page);
  await page.goto("/lesson");
  await expect(page.locator("li.is-warm-up")).toContainText("Pattern of the week: Downs on the beat");
  await page.goto("/term");
  await page.getByRole("button", { name: "Take the series off the term" }).click();
  await expect(page.getByRole("heading", { name: "Pattern of the week" })).toHaveCount(0);
});
