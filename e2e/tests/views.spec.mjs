// Every view: no axe violation in the light and the stage theme, no sideways
// scroll from phone to 200 % zoom.
import { test, expect, expectAccessible, expectFits } from "./arplin.mjs";

const notation = encodeURIComponent("4/4: p+m . p' i p m p' .");
const views = {
  desk: () => "/",
  songs: () => "/songs",
  "new song": () => "/songs/new",
  song: (s) => s.umbrellas,
  "song with pattern": (s) => `${s.umbrellas}?pattern=thumb-two-between&chord=F`,
  "song with strums, ukulele": (s) => `${s.ferry}?pattern=six-eight-strum&instrument=ukulele`,
  "what lies around a song": (s) => `${s.umbrellas}/around?pattern=thumb-two-between&deep=yes`,
  keys: (s) => `${s.umbrellas}/keys`,
  patterns: () => "/patterns?meter=3/4", // all cards are alike
  pattern: () => "/patterns/zones-strum",
  compare: () => "/patterns/compare",
  bench: () => "/bench?from=percussive-hybrid",
  level: (s) => `/level?song=${s.umbrellas.split("/").pop()}&notation=${notation}`,
  drill: (s) => `${s.umbrellas}/drill?pattern=thumb-two-between&bar=3&student=${s.students.Pia}`,
  ladders: () => "/ladders",
  ladder: (s) => s.ladder,
  sheet: (s) => `${s.ladder}/sheet?step=${s.steps[3]}`,
  sheets: (s) => `${s.ladder}/sheets`,
  "a student": (s) => `/students/${s.students.Pia}`,
  "a student's week": (s) => `/students/${s.students.Ruth}/week`,
  "a newcomer": (s) => `/students/${s.students.Jonas}/placement?heard0=clean&heard1=not`,
  lesson: () => "/lesson",
  "the tuner": () => "/tune",
  "who plays what": (s) => `${s.ladder}/grow`,
  "the tune": (s) => `${s.lamps}/melody`,
  term: () => "/term",
  "a series": () => "/term/series?pattern=thumb-two-between&weeks=5",
  "simulated classes": () => "/term/tried",
  class: () => "/class",
  "slips for phones": () => "/class/phones/slips",
  weights: () => "/class/weights?touch=2",
  archive: () => "/archive",
  account: () => "/account",
  "a page that is not there": () => "/nowhere",
};

// They are only read, so a few of them share a school.
const together = 6;
for (let at = 0; at < Object.keys(views).length; at += together) {
  const some = Object.entries(views).slice(at, at + together);
  test(`can be read by everyone: ${some.map(([name]) => name).join(", ")}`, async ({ teacher: page, school }) => {
    for (const [name, path] of some) {
      await test.step(name, async () => {
        await page.setViewportSize({ width: 1280, height: 800 });
        await page.goto(path(school));
        await expectAccessible(page);
        for (const width of [1280, 900, 768, 700, 390, 360]) {
          await page.setViewportSize({ width, height: 800 });
          await expectFits(page);
        }
        await page.evaluate(() => document.documentElement.setAttribute("data-bs-theme", "dark"));
        await expectAccessible(page, "color-contrast"); // nothing else is another
      });
    }
  });
}

test("sign-in can be read by everyone", async ({ page, watched: _ }) => {
  await page.goto("/signin");
  await expectAccessible(page);
  await page.getByLabel("Email").fill("nobody@arplin.test");
  await page.getByLabel("Password").fill("wrong");
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByRole("alert")).toContainText("Wrong email or password.");
  await expect(page.getByLabel("Email")).toHaveValue("nobody@arplin.test");
});

test("the class and the stage are switched in the head of every page", async ({ teacher: page, school }) => {
  await page.goto("/class");
  await page.getByText("Another class").click();
  await page.getByLabel("Name of the class").fill("Thursday, four o’clock");
  await page.getByRole("button", { name: "Create class" }).click();
  await expect(page.getByText("There are no students yet.")).toBeVisible();
  await page.getByLabel("First name or nickname").fill("Momo");
  await page.getByLabel("Instrument", { exact: true }).selectOption("ukulele");
  await page.getByRole("button", { name: "Add", exact: true }).click();
  await expect(page.getByRole("row", { name: /Momo/ })).toContainText("Ukulele");
  await page.getByLabel("First name or nickname").fill("Momo");
  await page.getByRole("button", { name: "Add", exact: true }).click();
  await expect(page.getByRole("alert")).toContainText("There’s already a Momo in this class");
  await page.getByRole("link", { name: "Edit Momo" }).click();
  await page.getByLabel("left-handed").check();
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByRole("row", { name: /Momo/ })).toContainText("left-handed");
  await page.goto("/");
  await expect(page.getByText("There’s nothing on the Desk yet.")).toBeVisible();

  await page.goto(school.umbrellas);
  await page.getByRole("button", { name: "Class: Thursday, four o’clock" }).click();
  await page.getByRole("button", { name: "Tuesday evening" }).click();
  await expect(page).toHaveURL(new RegExp(`${school.umbrellas}$`));
  await page.getByRole("button", { name: "Class: Tuesday evening" }).click();
  await page.getByRole("button", { name: "Dark theme for the projector" }).click();
  await expect(page.locator("html")).toHaveAttribute("data-bs-theme", "dark");
  await page.setViewportSize({ width: 390, height: 844 });
  await page.getByRole("button", { name: "Views" }).click();
  await page.getByRole("link", { name: "Ladders" }).click();
  await expect(page.getByRole("heading", { name: "Ladders" })).toBeVisible();
  await expect(page.locator("html")).toHaveAttribute("data-bs-theme", "dark");
  expect((await page.locator(".navbar").boundingBox()).height, "one line on a phone").toBeLessThan(64);
});

test("what is archived comes back, by undo or from the archive, or is deleted by its name", async ({ teacher: page, school }) => {
  const archive = async () => {
    await page.goto(school.ferry);
    await page.getByRole("button", { name: "Song menu" }).click();
    await page.getByRole("button", { name: "Archive this song" }).click();
    await expect(page.getByRole("link", { name: "The Baker's Ferry" })).toHaveCount(0);
  };
  await archive();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("link", { name: "The Baker's Ferry" })).toBeVisible();
  await archive();
  await page.goto("/archive");
  await page.getByRole("button", { name: "Restore The Baker's Ferry" }).click();
  await expect(page.getByRole("link", { name: "The Baker's Ferry" })).toBeVisible();
  await archive();
  await page.goto("/archive");
  const [file] = await Promise.all([page.waitForEvent("download"), page.getByRole("link", { name: "Export The Baker's Ferry" }).click()]);
  expect(file.suggestedFilename()).toMatch(/^Arplin song \d{4}-\d\d-\d\d\.arplin\.zip$/);
  await page.getByText("Delete for good").click();
  const name = page.getByLabel(/Type “The Baker's Ferry”/);
  await name.fill("ferry");
  await page.getByRole("button", { name: "Delete", exact: true }).click();
  await expect(page.getByText("Nothing was deleted")).toBeVisible();
  await page.goto("/archive");
  await page.getByText("Delete for good").click();
  await name.fill("The Baker's Ferry");
  await page.getByRole("button", { name: "Delete", exact: true }).click();
  await expect(page.getByText("Nothing is archived.")).toBeVisible();
});
