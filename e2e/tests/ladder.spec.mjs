// The staircase under the teacher's hand, and drills.
import { test, expect, expectAccessible, expectFits, expectOnePage, late } from "./arplin.mjs";

test("steps are pinned, dropped, split, written by hand and taken back", async ({ teacher: page, school }) => {
  await page.goto(school.frost + "?pattern=three-roll");
  await page.getByRole("button", { name: "Create ladder" }).click();
  const steps = page.locator(".step");
  const status = page.getByRole("status");
  const step = (n) => steps.nth(-n);
  const back = () => status.getByRole("button", { name: "Undo" }).click();
  const menu = async (n, name) => {
    await step(n).click({ position: { x: 6, y: 6 } });
    await expect(page.locator(".openstep")).toHaveAttribute("aria-label", `Step ${n}`);
    await page.getByRole("button", { name: `Edit step ${n}`, exact: true }).click();
    await page.locator(".openstep .dropdown-menu").getByText(name).click();
  };
  await expect(steps.first()).toBeVisible();
  const count = await steps.count();
  expect(count).toBeGreaterThanOrEqual(6);
  // Arplin proposes a step for everybody who waits, by what they have played.
  await page.getByText("Who goes where, and why").click();
  await expect(page.locator(".proposal li").filter({ hasText: "Ilse" })).toContainText("has played level");
  await page.getByRole("button", { name: "Place everyone by their clean tempos" }).click();
  await expect(status).toContainText("Placed: Ilse");
  await expect(page.locator(".waiting .chip")).toHaveCount(0);
  await back();
  await expect(status).toContainText("Undone: Ilse");
  // Two keys one after the other, on a line that is slow to answer: both count.
  await late(page, "**/place**", 300);
  await page.locator(".waiting").getByRole("button", { name: "Ruth" }).press("ArrowUp");
  await page.getByRole("button", { name: /^Ruth/ }).press("ArrowUp");
  await expect(status).toContainText("Ruth is on step 2 now.");
  await expect(page.getByRole("button", { name: /^Ruth/ }), "the focus stays where the hand was").toBeFocused();
  await menu(2, "Pin");
  await expect(step(2)).toContainText("pinned");
  await menu(1, "Remove step");
  await expect(steps).toHaveCount(count - 1);
  await expect(step(1)).toContainText("Ruth"); // the step is the same, one lower now
  await back();
  await expect(status).toContainText("Undone: Removed step 1");
  await expect(steps).toHaveCount(count);
  await expect(step(2)).toContainText("Ruth");
  await menu(2, "Split");
  await expect(page.getByText("Nothing fits below step 2")).toBeVisible();
  // By keys, on the step that has the focus; what is open stays open.
  await step(4).focus();
  await expect(page.locator(".openstep")).toContainText("Ready when");
  await page.keyboard.press("s");
  await expect(steps).toHaveCount(count + 1);
  await expect(step(5)).toBeFocused();
  await expect(page.locator(".openstep"), "the step in focus is open").toHaveAttribute("aria-label", "Step 5");
  await page.keyboard.press("Control+z");
  await expect(steps).toHaveCount(count);
  await page.keyboard.press("ArrowDown");
  await expect(step(3)).toBeFocused();
  await page.keyboard.press("Enter");
  await page.locator(".dropdown-menu.show").getByText("Edit notation").click();
  const notation = page.getByLabel("Notation of step 3");
  await expect(notation).toBeFocused();
  await notation.fill("3/4: p . q");
  await page.keyboard.press("Enter");
  await expect(page.getByText('bar 1, slot 3: "q" is not a stroke')).toBeVisible();
  await expect(notation).toHaveValue("3/4: p . q");
  await page.getByText("Edit ladder").click();
  const own = page.getByLabel("Your own step");
  await own.fill("3/4: p . q . . .");
  await page.getByRole("button", { name: "Add step" }).click();
  await expect(page.getByText('"q" is not a stroke').last()).toBeVisible();
  await expect(own).toHaveValue("3/4: p . q . . .");
  await own.fill("3/4: p . p . p .");
  await page.getByRole("button", { name: "Add step" }).click();
  await expect(steps).toHaveCount(count + 1);
  await expect(status).toContainText("Added your step as step");
  await page.getByRole("button", { name: /^How it grows/ }).click();
  await page.locator(".dropdown-menu.show").getByText("rhythm first").click();
  await expect(status).toContainText("Rebuilt unpinned steps.");
  await expect(step(1)).toContainText("say the count");
  await expect(page.locator(".steps").first()).toContainText("Ruth");
  await page.getByText("Harder than the target").click();
  await expect(page.locator("#beyond li").first()).toBeVisible();
  await expectAccessible(page);
  await page.setViewportSize({ width: 360, height: 800 });
  await expectFits(page);
});

test("how a ladder is built is asked first, and several steps go at once", async ({ teacher: page, school }) => {
  await page.goto(school.umbrellas + "?pattern=outside-inside");
  await page.getByText("Ladder choices").click();
  await page.getByLabel("How it grows").selectOption({ label: "cell by cell: the smallest cell in the order of time, then repeated, then what differs" });
  await page.getByLabel("Size of steps").selectOption("small");
  await page.locator("[name=chords]").first().selectOption("each");
  await page.getByLabel("Start with").selectOption("Am");
  await page.getByRole("button", { name: "Create ladder" }).click();
  await expect(page.locator(".menus")).toContainText(/cell by cell.*small steps.*chords after each pattern/s);
  const steps = page.locator(".step");
  await expect(page.locator(".openstep")).toContainText("Guitar · Am");
  const count = await steps.count();
  for (const n of [2, 3]) {
    await steps.nth(-n).hover();
    await page.getByLabel(`Pick step ${n}`).check();
  }
  await page.getByText("Edit ladder").click();
  await page.getByRole("button", { name: "Remove ticked steps" }).click();
  await expect(page.getByRole("status")).toContainText("Removed 2 steps.");
  await expect(steps).toHaveCount(count - 2);
  // A step of one's own has its place, its chords and its tempo.
  await page.getByLabel("Your own step").fill("4/4: p m . . p m . .");
  await page.locator("#own-after").selectOption({ label: "step 2" });
  await page.locator("#own-pace").selectOption({ index: 2 });
  await page.getByRole("button", { name: "Add step" }).click();
  await expect(page.getByRole("status")).toContainText("Added your step as step 3.");
  await page.getByRole("button", { name: /^Size of steps/ }).click();
  await page.locator(".dropdown-menu.show").getByText("big", { exact: false }).first().click();
  await expect(page.locator(".menus")).toContainText("big steps");
  await expect(page.locator(".step.pinned")).toHaveCount(1);
  await expectAccessible(page);
});

test("an older page of a ladder overwrites nothing", async ({ teacher: page, school }) => {
  await page.goto(school.ladder);
  const count = await page.locator(".step").count();
  const second = await page.context().newPage();
  await second.goto(school.ladder);
  await second.locator(".step").nth(3).focus();
  await second.keyboard.press("Delete");
  await expect(second.locator(".step")).toHaveCount(count - 1);
  await page.locator(".step").nth(5).focus();
  await page.keyboard.press("Delete");
  await expect(page.getByRole("alert").first()).toContainText("Nothing was changed here. This ladder was changed in another window");
  await expect(page.locator(".step"), "it is shown as it is now").toHaveCount(count - 1);
});

test("the staircase is walked by arrows, the open step follows, and a ladder of eleven fits one screen", async ({ teacher: page, school }) => {
  await page.goto(school.ladder);
  const steps = page.locator(".step");
  await expect(steps).toHaveCount(11);
  const bar = await page.locator(".playbar").boundingBox();
  for (const n of [0, 10]) {
    const box = await steps.nth(n).boundingBox();
    expect(box.y, "the whole staircase is on the screen").toBeGreaterThan(0);
    expect(box.y + box.height).toBeLessThanOrEqual(bar.y);
  }
  await steps.nth(5).focus();
  const open = page.locator(".openstep");
  await expect(open).toHaveAttribute("aria-label", "Step 6");
  await page.keyboard.press("ArrowUp");
  await expect(open).toHaveAttribute("aria-label", "Step 7");
  await expect(page.locator(".playwhat")).toContainText("step 7");
  await page.reload();
  await expect(open, "the address keeps it").toHaveAttribute("aria-label", "Step 7");
  await page.getByRole("button", { name: /^levels for/ }).click();
  await page.getByRole("link", { name: "Ukulele, low g" }).click();
  await expect(page).toHaveURL(/instrument=ukulele-low-g/);
  await expect(open).toContainText("Ukulele, low g · ");
  await page.setViewportSize({ width: 390, height: 844 });
  await expect(steps.nth(4).locator(".openstep"), "under its row on a phone").toBeVisible();
  await expectFits(page);
});

test("the hardest spot becomes a drill that prints", async ({ teacher: page, school }) => {
  await page.goto(school.umbrellas + "?pattern=thumb-two-between");
  await page.getByRole("link", { name: "Drill the hardest spot" }).click();
  // It is a change of chords: the shapes first, the hand silent.
  await expect(page.getByText(/the change into bar \d/)).toBeVisible();
  await expect(page.locator(".exercises li")).toHaveCount(4);
  await expect(page.locator(".exercises li").first().locator("svg.shape")).toHaveCount(2);
  await expectOnePage(page);
  await page.getByLabel("Trouble spot").selectOption("bar");
  await expect(page.locator(".exercises li")).toHaveCount(9);
  await expect(page.locator(".exercises li").first()).toContainText("open strings");
  await expectAccessible(page);
  await page.getByLabel("Bar of 16").fill("3");
  await page.getByLabel("Bar of 16").press("Enter");
  await expect(page.locator(".exercises")).toContainText("Am | F");
  await page.getByLabel("Trouble spot").selectOption("change");
  await expect(page.locator(".exercises li")).toHaveCount(4);
  await page.getByLabel("Bar of 16").fill("99");
  await page.getByLabel("Bar of 16").press("Enter");
  await expect(page.getByRole("alert")).toContainText("The song has bars 1 to 16, not 99".slice(4));
  await page.setViewportSize({ width: 360, height: 800 });
  await expectFits(page);
  await page.goto(school.umbrellas + "/drill?pattern=thumb-two-between&bar=3");
  // It goes on a student's week, in that student's minutes, and off again.
  await page.getByRole("combobox", { name: /^For/ }).selectOption({ label: "Pia" });
  await expect(page.getByText("Ukulele, high g · bar 3 · 7 minutes")).toBeVisible();
  await page.getByRole("button", { name: "Add to Pia’s week" }).click();
  await expect(page.getByRole("heading", { name: "Pia’s drill: Nine Umbrellas" })).toBeVisible();
  await expectFits(page);
  await page.goto(`${school.ladder}/sheet?student=${school.students.Pia}`);
  await expect(page.locator(".sheet")).toContainText("Drill of the week: Nine Umbrellas, bar 3, 7 minutes");
  await expectOnePage(page);
  await page.goto("/");
  await page.getByRole("link", { name: /^Drill: bar 3/ }).click();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Remove from the week" }).click();
  await expect(page.getByText("Removed from the week.")).toBeVisible();
  await expect(page.getByRole("link", { name: /^Drill: bar 3/ })).toHaveCount(0);
  await page.goto(school.umbrellas + "/drill?pattern=thumb-two-between&bar=3");
  await expectOnePage(page);
});
