// The staircase under the teacher's hand, and drills.
import { test, expect, expectAccessible, expectFits } from "./arplin.mjs";

test("steps are pinned, dropped, split, written by hand and taken back", async ({ teacher: page }) => {
  await page.goto("/songs/3?pattern=three-roll");
  await page.getByRole("button", { name: "Make a ladder" }).click();
  const steps = page.locator(".step");
  const status = page.getByRole("status");
  const count = await steps.count();
  expect(count).toBeGreaterThanOrEqual(6);
  await page.locator(".waiting").getByRole("button", { name: "Ruth" }).press("ArrowUp");
  await page.getByRole("button", { name: /^Ruth/ }).press("ArrowUp");
  await expect(status).toContainText("Ruth stands on step 2 now.");
  await page.getByRole("button", { name: "Pin step 2", exact: true }).click();
  await expect(page.getByRole("button", { name: "Pin step 2", exact: true })).toHaveAttribute("aria-pressed", "true");
  await page.getByRole("button", { name: "Drop step 1", exact: true }).click();
  await expect(steps).toHaveCount(count - 1);
  await expect(page.locator('.step[data-step="0"]')).toContainText("Ruth"); // the step is the same, one lower now
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(status).toContainText("Taken back: Dropped step 1");
  await expect(steps).toHaveCount(count);
  await expect(page.locator('.step[data-step="1"]')).toContainText("Ruth");
  await page.getByRole("button", { name: "Split step 5", exact: true }).click(); // adds a single stroke
  await expect(page.getByText("No rule leads to a step between 4 and 5.")).toBeVisible();
  await page.getByRole("button", { name: "Split step 4", exact: true }).click();
  await expect(steps).toHaveCount(count + 1);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(steps).toHaveCount(count);
  const own = page.getByLabel("A step of your own, put in by its level");
  await own.fill("3/4: p . q . . .");
  await page.getByRole("button", { name: "Put it in" }).click();
  await expect(page.getByText('bar 1, slot 3: "q" is not a stroke')).toBeVisible();
  await expect(own).toHaveValue("3/4: p . q . . .");
  await own.fill("3/4: p . p . p .");
  await page.getByRole("button", { name: "Put it in" }).click();
  await expect(steps).toHaveCount(count + 1);
  await expect(status).toContainText("Put your step in as number");
  await page.getByRole("button", { name: "Find the rest anew" }).click();
  await expect(status).toContainText("Found the steps anew.");
  await expectAccessible(page);
  await page.setViewportSize({ width: 360, height: 800 });
  await expectFits(page);
});

test("the hardest spot becomes a drill that prints", async ({ teacher: page }) => {
  await page.goto("/songs/1?pattern=thumb-two-between");
  await page.getByRole("link", { name: "Drill the hardest spot" }).click();
  await expect(page.locator(".exercises li")).toHaveCount(8);
  await expect(page.locator(".exercises li").first()).toContainText("open strings");
  await expectAccessible(page);
  await page.getByLabel("Bar of 16").fill("3");
  await page.getByLabel("Bar of 16").press("Enter");
  await expect(page.locator(".exercises")).toContainText("Am | F");
  await page.getByLabel("What fails").selectOption("change");
  await expect(page.locator(".exercises li")).toHaveCount(4);
  await page.getByLabel("Bar of 16").fill("99");
  await page.getByLabel("Bar of 16").press("Enter");
  await expect(page.getByRole("alert")).toContainText("The song has bars 1 to 16, not 99".slice(4));
  await page.setViewportSize({ width: 360, height: 800 });
  await expectFits(page);
  await page.goto("/songs/1/drill?pattern=thumb-two-between&bar=3");
  expect((await page.pdf({ preferCSSPageSize: true })).length).toBeGreaterThan(10_000);
});
