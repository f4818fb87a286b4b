// An evening at the desk: two songs side by side, tempos by keyboard, the network cut in
// the middle, what is proposed and what fails.
import { test, expect, expectPages, minutesOf } from "./arplin.mjs";

test("nine people on two songs, by keyboard, with the network cut in between", async ({ teacher: page, school, context }) => {
  await page.goto(`${school.ferry}?pattern=six-eight-strum`);
  await page.getByRole("button", { name: "Create ladder" }).click();
  await expect(page.locator(".step").first()).toBeVisible();
  await page.locator(".proposal button").click();
  await expect(page.getByText("Everyone has a step.")).toBeVisible();

  await page.goto("/");
  await expect(page.getByRole("heading", { name: /Baker/ })).toBeVisible(); // the newest is in front
  await page.getByRole("link", { name: "All side by side" }).click();
  const fields = page.locator("#log .tempo-in");
  await expect(fields).toHaveCount(18);
  await fields.first().focus();
  for (let i = 0; i < 18; i++) {
    if (i === 7) {
      await context.setOffline(true);
      await page.keyboard.type(`${50 + i}`);
      await page.keyboard.press("Enter");
      await expect(page.getByText("You’re offline.")).toBeVisible();
      await expect(fields.nth(i)).toHaveValue(`${50 + i}`);
      await context.setOffline(false); // and it goes by itself
    } else {
      await page.keyboard.type(`${50 + i}`);
      await page.keyboard.press("Enter");
    }
    await expect(fields.nth((i + 1) % 18)).toBeFocused();
  }
  await expect(page.getByRole("status")).toContainText("67, clean");
  await page.reload();
  await expect(page.locator(".tempo-last")).toHaveText(Array.from({ length: 18 }, (_, i) => `${50 + i}`));

  // Far above the goal: on by two steps, with the reason, and back with Undo.
  await page.getByRole("link", { name: "Nine Umbrellas" }).first().click();
  const line = page.getByLabel("Log", { exact: true });
  await line.fill("ruth 100, ruth 101");
  await line.press("Enter");
  const ruth = page.locator(`#who-${school.students.Ruth}`);
  await expect(ruth).toContainText("ready for step 4");
  await page.getByRole("button", { name: "Ruth: skip ahead to step 4" }).click();
  await expect(page.getByRole("status")).toContainText("Ruth is on step 4 now.");
  await expect(ruth).toContainText("no tempo yet");
  await page.getByRole("status").getByRole("button", { name: "Undo" }).click();
  await expect(ruth.locator(".stepno")).toHaveText("2");

  // One key accepts the suggestion, another decides otherwise.
  const field = (name) => page.locator(`#who-${school.students[name]} .tempo-in`);
  await field("Ilse").press("*"); // all that are ready: Ruth alone
  await expect(ruth.locator(".stepno")).toHaveText("4");
  await page.getByRole("status").getByRole("button", { name: "Undo" }).click();
  await expect(ruth.locator(".stepno")).toHaveText("2");
  await field("Ruth").press("=");
  await expect(ruth.locator(".stepno")).toHaveText("4");
  await field("Wim").press(">");
  await expect(page.getByRole("status")).toContainText("Wim is on step 4 now.");
  await field("Wim").press("<");
  await expect(page.getByRole("status")).toContainText("Wim is on step 3 now.");
  await field("Pia").press("-");
  await expect(page.getByRole("status")).toContainText("Pia stays");

  // The same fault three times is a drill of its bar, which knows why; a song is named in the line.
  for (const said of ["tomas umb 60 sc b5, tomas umb 60 sc b5", "tomas umb 58 sc b5"]) {
    await line.fill(said);
    await line.press("Enter");
    await expect(line).toHaveValue("");
  }
  await page.getByRole("link", { name: "drill bar 5" }).click();
  await expect(page.getByText("Bar 5 failed 3 times in the log: stopped at the change.")).toBeVisible();

  await page.goto(`/students/${school.students.Tomas}`);
  await expect(page.locator(".heardlist").last()).toContainText("not clean, stopped at the change, bar 5");

  // The next lesson is planned in one click, from what was heard.
  await page.getByRole("link", { name: "Lesson", exact: true }).click();
  const band = page.locator(".minutes td");
  await expect(band.first()).toContainText("tune");
  expect(await minutesOf(band)).toBe(60);
  await expect(page.locator("#piece-3")).toContainText("not clean last time");

  // Sheets for everybody are one print job: nine people, nine pages.
  await page.goto(`${school.ladder}/sheets`);
  await expect(page.getByText("9 sheets, 9 pages.")).toBeVisible();
  await expect(page.locator(".sheet .sheetfor").nth(1)).toContainText("Tomas, Guitar");
  await expectPages(page, 9);

  // A finished song leaves the desk and keeps its places.
  await page.goto("/ladders");
  await page.getByRole("link", { name: /Baker/ }).click();
  await page.getByRole("button", { name: "Ladder menu" }).click();
  await page.getByRole("button", { name: "Mark as finished" }).click();
  await expect(page.getByRole("status")).toContainText("Everyone’s step is kept");
  await expect(page.locator(".chip")).toHaveCount(9);
  await page.goto("/");
  await expect(page.getByRole("link", { name: "All side by side" })).toHaveCount(0);
  await page.goto(`/students/${school.students.Pia}`);
  await expect(page.getByRole("heading", { name: /Baker.*finished/ })).toBeVisible();
});
