// Every view: no axe violation, no sideways scroll from phone to 200 % zoom.
import { test, expect, expectAccessible, expectFits } from "./arplin.mjs";

const views = {
  desk: "/",
  songs: "/songs",
  "new song": "/songs/new",
  song: "/songs/1",
  "song with pattern": "/songs/1?pattern=thumb-two-between",
  "song with strums, ukulele": "/songs/2?pattern=six-eight-strum&instrument=ukulele",
  patterns: "/patterns",
  "song, two rules deep": "/songs/1?pattern=thumb-two-between&deep=yes",
  level: "/level?song=1&notation=" + encodeURIComponent("4/4: p+m . p' i p m p' ."),
  drill: "/songs/1/drill?pattern=thumb-two-between&bar=3&student=6",
  ladders: "/ladders",
  ladder: "/ladders/1",
  sheet: "/ladders/1/sheet?step=4",
  class: "/class",
  "a page that is not there": "/nowhere",
};

for (const [name, path] of Object.entries(views)) {
  test(`${name} can be read by everybody`, async ({ teacher: page }) => {
    await page.goto(path);
    await expectAccessible(page);
    for (const width of [1280, 640, 360]) {
      await page.setViewportSize({ width, height: 800 });
      await expectFits(page);
    }
  });
}

test("sign-in can be read by everybody", async ({ page, watched: _ }) => {
  await page.goto("/signin");
  await expectAccessible(page);
  await page.getByLabel("Mail address").fill("nobody@arplin.test");
  await page.getByLabel("Password").fill("wrong");
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByRole("alert")).toContainText("do not go together");
  await expect(page.getByLabel("Mail address")).toHaveValue("nobody@arplin.test");
});

test("a new class begins with one student", async ({ teacher: page }) => {
  await page.goto("/class");
  await page.getByText("Another class").click();
  await page.getByLabel("Name of the class").fill("Thursday, four o’clock");
  await page.getByRole("button", { name: "Make the class" }).click();
  await expect(page.getByText("Nobody is here yet.")).toBeVisible();
  await page.getByLabel("First name or nickname").fill("Momo");
  await page.getByLabel("Instrument").selectOption("ukulele");
  await page.getByRole("button", { name: "Add", exact: true }).click();
  await expect(page.getByRole("row", { name: /Momo/ })).toContainText("Ukulele");
  await page.getByLabel("First name or nickname").fill("Momo");
  await page.getByRole("button", { name: "Add", exact: true }).click();
  await expect(page.getByRole("alert")).toContainText("There is a Momo in this class already");
  await page.getByRole("link", { name: "Change Momo" }).click();
  await page.getByLabel("left-handed").check();
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByRole("row", { name: /Momo/ })).toContainText("left-handed");
  await page.goto("/");
  await expect(page.getByText("The class has no ladder yet.")).toBeVisible();
});

test("a song taken off the list comes back by undo", async ({ teacher: page }) => {
  await page.goto("/songs");
  await page.getByRole("link", { name: "The Baker's Ferry" }).click();
  await page.getByRole("button", { name: "Take this song off the list" }).click();
  await expect(page.getByRole("link", { name: "The Baker's Ferry" })).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("heading", { name: "The Baker's Ferry" })).toBeVisible();
});
