// The lesson: its band by keyboard and by hand, the register, the room, a line logged from
// there, and what rolls forward.
import { test, expect, expectAccessible, expectFits, expectPages, minutesOf } from "./arplin.mjs";

test("a lesson is planned, changed, taught and rolls forward", async ({ teacher: page, school }) => {
  await page.goto("/lesson");
  const band = page.locator(".minutes td");
  const minutes = (name) => band.filter({ hasText: name }).locator("b");
  expect(await minutesOf(band)).toBe(60);
  const before = Number(await minutes("group work").textContent());

  // A border moves with the arrow keys and keeps the focus; the sum stays.
  const border = page.getByRole("button", { name: /^Border between group work/ });
  await border.focus();
  await page.keyboard.press("ArrowRight");
  await expect(minutes("group work")).toHaveText(`${before + 1}`);
  await expect(border).toBeFocused();
  await page.keyboard.press("ArrowLeft");
  await expect(minutes("group work")).toHaveText(`${before}`);
  expect(await minutesOf(band)).toBe(60);

  // It is dragged as well.
  const box = await border.boundingBox();
  const wide = await page.locator(".minutes").boundingBox();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 3 * wide.width / 60, box.y + box.height / 2, { steps: 4 });
  await page.mouse.up();
  await expect(minutes("group work")).toHaveText(`${before + 3}`);
  expect(await minutesOf(band)).toBe(60);

  // Who is away is in no group, and gets the week to catch up.
  await page.getByRole("button", { name: "Ruth", exact: true }).press("Enter");
  await expect(page.getByRole("status")).toContainText("Ruth is away");
  await expect(page.locator(".groups")).not.toContainText("Ruth");
  await expect(page.getByRole("link", { name: "Ruth’s week" })).toBeVisible();
  await expect(page.getByRole("button", { name: /^Ruth/ })).toHaveAttribute("aria-pressed", "false");

  // The room: by the keys of a page turner, on the stage theme, readable by everybody.
  await page.getByRole("button", { name: "Start the lesson" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("tune");
  await expect(page.locator("html")).toHaveAttribute("data-bs-theme", "dark");
  await expect(page.getByRole("timer")).toHaveText(/^[34]:\d\d$/);
  await page.getByRole("button", { name: "Play E2, Guitar" }).click();
  await expect(page.getByRole("button", { name: "Play E2, Guitar" })).toHaveAttribute("data-heard", "yes");
  await page.keyboard.press("PageDown");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("warm-up");
  await page.keyboard.press("ArrowLeft");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("tune");
  await page.keyboard.press("+");
  await expect(page.getByRole("status")).toContainText("2 minutes more");
  for (const name of ["warm-up", "review", "rest", "something new"]) {
    await page.keyboard.press("ArrowRight");
    await expect(page.getByRole("heading", { level: 1 })).toHaveText(name);
  }
  await page.keyboard.press("x");
  await expect(page.getByRole("status")).toContainText("“something new” is skipped");
  await page.keyboard.press("ArrowRight");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("group work");
  await expectAccessible(page);
  for (const width of [1280, 640, 360]) {
    await page.setViewportSize({ width, height: 800 });
    await expectFits(page);
  }

  // A tempo is logged from the same page; the keys of the lesson are letters there.
  const line = page.getByLabel("Log", { exact: true });
  await line.fill("pia 81 x");
  await line.press("Enter");
  await expect(page.getByRole("status")).toContainText("Pia: 81, not clean");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("group work");

  await page.getByRole("button", { name: "End the lesson", exact: true }).click();
  await expect(page.getByRole("alert").filter({ hasText: "Not reached yet" })).toContainText("the song");
  await page.getByRole("button", { name: "End the lesson now" }).click();
  await expect(page.getByRole("status")).toContainText("“something new” comes first next time.");
  await expect(page.locator("#piece-3")).toContainText("“something new” was not reached in the last lesson");
  await page.goto(`/students/${school.students.Ruth}/week`);
  await expect(page.getByText("To catch up: the lesson of")).toBeVisible();
  await expectPages(page, 1);
});

test("a term has its days, its calendar and simulated classes", async ({ teacher: page }) => {
  await page.goto("/term");
  await expect(page.getByText("12 weeks to the evening")).toBeVisible();
  await page.getByText("Test the plan on simulated classes").click();
  await expect(page.getByRole("rowheader", { name: "fast forgetters" })).toBeVisible();
  await page.getByText("Days, song and name").click();
  await page.getByLabel("Name").fill("the evening in the hall");
  await page.getByRole("button", { name: "Plan the term" }).click();
  await expect(page.getByText("weeks to the evening in the hall")).toBeVisible();
  const [download] = await Promise.all([page.waitForEvent("download"), page.getByRole("link", { name: "Add to calendar" }).click()]);
  expect(download.suggestedFilename()).toBe("term.ics");
});

test("a class is pasted, a newcomer finds a step, and the log comes and goes as CSV", async ({ teacher: page, school }) => {
  await page.goto("/class");
  await page.getByText("Another class").click();
  await page.getByLabel("Name of the class").fill("Friday");
  await page.getByLabel(/^Students/).fill("Zoë Brook, ukulele\n2. Ben - guitar, left\nAda");
  await page.getByRole("button", { name: "Create class" }).click();
  await expect(page.getByRole("status")).toContainText("Added 3 students: Zoë, Ben, Ada. Surnames were left out");
  await expect(page.getByRole("row", { name: /Ben/ })).toContainText("left-handed");

  await page.goto(`/students/${school.students.Jonas}/placement`);
  await page.getByLabel("clean", { exact: true }).first().check();
  await expect(page.getByRole("button", { name: /^Put Jonas on step/ })).toBeVisible();
  await page.getByRole("button", { name: /^Put Jonas on step/ }).click();
  await expect(page.getByRole("status")).toContainText("Jonas is on step");
});
