// The staircase under the teacher's hand, and drills.
import { test, expect, expectAccessible, expectFits, expectOnePage } from "./arplin.mjs";

test("steps are pinned, dropped, split, written by hand and taken back", async ({ teacher: page }) => {
  await page.goto("/songs/3?pattern=three-roll");
  await page.getByRole("button", { name: "Make a ladder" }).click();
  const steps = page.locator(".step");
  const status = page.getByRole("status");
  const count = await steps.count();
  expect(count).toBeGreaterThanOrEqual(6);
  // Arplin proposes a step for everybody who waits, by what they have played.
  await page.getByText("Who goes where, and why").click();
  await expect(page.locator(".proposal li").filter({ hasText: "Ilse" })).toContainText("has played level");
  await page.getByRole("button", { name: "Place them by what they have played clean" }).click();
  await expect(status).toContainText("On steps now: Ilse");
  await expect(page.locator(".waiting .chip")).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(status).toContainText("They wait beside the ladder again.");
  // Two keys one after the other, on a line that is slow to answer: both count.
  await page.route("**/place**", async (route) => {
    await new Promise((later) => setTimeout(later, 300));
    await route.continue();
  });
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
  await page.getByRole("button", { name: "Split step 1", exact: true }).click();
  await expect(page.getByText("No rule leads to a step between 0 and 1.")).toBeVisible();
  await page.getByRole("button", { name: "Split step 4", exact: true }).click(); // adds two strokes
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
  await page.getByLabel("Order of the steps").selectOption("rhythm first");
  await page.getByRole("button", { name: "Find the rest anew" }).click();
  await expect(status).toContainText("Found the steps anew.");
  await expect(page.locator('.step[data-step="0"]')).toContainText("the count, said");
  await expect(page.locator(".steps")).toContainText("Ruth");
  const first = page.locator('.step[data-step="1"]');
  await first.getByText("Why, how, and its level").click();
  await expect(first).toContainText("Ready when");
  await page.getByText("Beyond the target").click();
  await expect(page.locator(".beyond li").first()).toBeVisible();
  await expectAccessible(page);
  await page.setViewportSize({ width: 360, height: 800 });
  await expectFits(page);
});

test("the hardest spot becomes a drill that prints", async ({ teacher: page }) => {
  await page.goto("/songs/1?pattern=thumb-two-between");
  await page.getByRole("link", { name: "Drill the hardest spot" }).click();
  // It is a change of chords: the shapes first, the hand silent.
  await expect(page.getByText(/the change into bar \d/)).toBeVisible();
  await expect(page.locator(".exercises li")).toHaveCount(4);
  await expect(page.locator(".exercises li").first().locator("svg.shape")).toHaveCount(2);
  await expectOnePage(page);
  await page.getByLabel("What fails").selectOption("bar");
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
  // It goes on a student's week, in that student's minutes, and off again.
  await page.getByRole("combobox", { name: /^For/ }).selectOption({ label: "Pia" });
  await expect(page.getByText("Ukulele, high g · bar 3 · 7 minutes")).toBeVisible();
  await page.getByRole("button", { name: "Put it on Pia’s week" }).click();
  await expect(page.getByRole("heading", { name: "Pia’s drill: Nine Umbrellas" })).toBeVisible();
  await expectFits(page);
  await page.goto("/ladders/1/sheet?student=6&step=5");
  await expect(page.locator(".sheet")).toContainText("Drill of the week: Nine Umbrellas, bar 3, 7 minutes");
  await expectOnePage(page);
  await page.goto("/");
  await page.getByRole("link", { name: /^Drill: bar 3/ }).click();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Take it off the week" }).click();
  await expect(page.getByText("The drill is off the week.")).toBeVisible();
  await expect(page.getByRole("link", { name: /^Drill: bar 3/ })).toHaveCount(0);
  await page.goto("/songs/1/drill?pattern=thumb-two-between&bar=3");
  await expectOnePage(page);
});
