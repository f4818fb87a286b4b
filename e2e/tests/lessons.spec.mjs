// Lessons as they are taught: a song with a figure for each verse, a tablature in three and a figure that
// is said, only the fingers that are needed, a drill over chords of one's own.
import { test, expect, expectAccessible, expectOnePage } from "./arplin.mjs";

const verses = ["C | Am | F | G7", "C | Am | F | G7", "Am | F | C | G7", "C | Am | F | C"];
const sheet = `Four Lanterns\n\n${verses.map((line, i) => `Verse ${i + 1}:\n| ${line} |`).join("\n\n")}\n`;

async function newSong(page, text) {
  await page.goto("/songs/new");
  await page.locator("#text").fill(text);
  await expect(page.locator("#preview .onebar")).toHaveCount(16);
  await page.getByRole("button", { name: /Save/ }).first().click();
  await expect(page.getByRole("heading", { name: "Four Lanterns" })).toBeVisible();
}

test("a song with four patterns becomes who plays what, and its sheets", async ({ teacher: page, school }) => {
  await newSong(page, sheet);
  const figures = ["thumb-once", "thumb-beats", "thumb-two-between", "common-strum"];
  for (const [i, id] of figures.entries()) {
    await page.locator(".part").nth(i).getByText("Section", { exact: true }).click();
    await page.locator(".part").nth(i).getByLabel("Pattern of this part").selectOption(id);
    await page.locator(".part").nth(i).getByRole("button", { name: "Use pattern", exact: true }).click();
    await expect(page.locator(".part").nth(i).locator("svg.strip").first()).toBeVisible();
  }
  await expect(page.getByText("each part has its own").first()).toBeVisible();
  await page.getByRole("button", { name: "Create ladder" }).click();
  await expect(page.locator(".step").first()).toBeVisible();
  const ladder = page.url().replace(/[?#].*/, "");
  await page.getByRole("link", { name: "Who plays what" }).click();
  await expectAccessible(page);
  // The second verse has a thumb on every beat: nothing lacks a beat there, and each cell is of its verse.
  const cells = page.locator("table select, .growcells select, select[aria-label*='in part']");
  await expect(page.getByLabel(/in part 2, Verse 2/).first()).toBeVisible();
  await expect(page.getByLabel(/in part 4, Verse 4/).first()).toBeVisible();
  expect(await cells.count()).toBeGreaterThanOrEqual(4);
  await page.getByRole("link", { name: "Sheet" }).first().click();
  await expect(page.getByRole("heading", { name: /Four Lanterns/ })).toBeVisible();
  await expectOnePage(page);
  await page.goto(`${ladder}/sheet?instrument=guitar`);
  for (const verse of ["Verse 2", "Verse 3", "Verse 4"]) await expect(page.locator(".sheetparts")).toContainText(`${verse}, on`);
});

const waltz = "A waltz\n   C           G\ne|-------------|-------------|\nB|-----1---1---|-----0---0---|\nG|---------0---|---------0---|\nD|-------------|-------------|\nA|-3-----------|-------------|\nE|-------------|-3-----------|\n   1 & 2 & 3 &   1 & 2 & 3 &\n";

test("a tablature in three and a pattern that is said become ladders", async ({ teacher: page, school }) => {
  await page.goto("/patterns/read");
  await page.getByLabel("Tablature").fill(waltz);
  await page.getByRole("button", { name: "Preview" }).click();
  await expect(page.getByRole("heading", { name: /^3\/4:/ })).toBeVisible();
  await page.getByLabel("Name").fill("Waltz of the quay");
  await page.getByRole("button", { name: "Create a ladder from it" }).click();
  await expect(page.locator(".openstep .strip").last()).toBeVisible();
  await page.goto("/bench");
  await page.getByText("Spoken", { exact: false }).first().click();
  const said = page.locator("input[name=words], textarea[name=words]").first();
  await said.fill("thumb, index, thumb, middle");
  await said.press("Enter");
  await expect(page.getByLabel("Notation")).toHaveValue(/p . i . p . m ./);
  // A step of one's own, as it is said.
  await page.goto(school.ladder);
  await page.getByText("Edit ladder").click();
  await page.getByLabel("Your own step").fill("D DU UDU");
  await page.getByRole("button", { name: "Add step" }).click();
  await expect(page.getByRole("status")).toContainText("Added your step");
});

test("only the fingers you need, from the song to the week, and a drill over one's own chords", async ({ teacher: page, school }) => {
  const shape = (name) => page.locator(`svg.shape[aria-label^='${name} as']`).first();
  await page.goto(`${school.umbrellas}?pattern=thumb-two-between&instrument=guitar`);
  const whole = await shape("G7").getAttribute("aria-label");
  await page.goto("/class");
  await page.locator("summary", { hasText: "Playing style" }).click();
  await page.getByLabel("Left hand").selectOption("yes");
  await page.getByRole("button", { name: "Save playing style" }).click();
  await expect(page.getByRole("status")).toContainText("Saved");
  await page.goto(`${school.umbrellas}?pattern=thumb-two-between&instrument=guitar`);
  await expect(shape("G7")).not.toHaveAttribute("aria-label", whole);
  const lean = await shape("G7").getAttribute("aria-label");
  await page.goto(`${school.ladder}/sheet?instrument=guitar`);
  await expect(page.locator("svg.shape[aria-label^='G7 as']").first()).toHaveAttribute("aria-label", lean);
  await expect(page.getByText("only the fingers you need")).toBeVisible();

  const [name, id] = Object.entries(school.students)[0];
  await page.goto(`${school.umbrellas}/drill?student=${id}&bar=2&pattern=thumb-two-between`);
  const over = page.getByLabel("Over", { exact: true });
  await over.fill("C F Hx");
  await over.press("Enter");
  await expect(page.getByText("“Hx” is neither a chord nor a degree")).toBeVisible();
  await page.getByLabel("Over", { exact: true }).fill("I IV V7");
  await page.getByLabel("Over", { exact: true }).press("Enter");
  await expect(page.locator(".exercises")).toContainText("C | F | G7");
  await expectAccessible(page);
  await page.getByRole("button", { name: `Add to ${name}’s week` }).click();
  await expect(page.getByText("over C | F | G7").first()).toBeVisible();
  await page.goto(`/students/${id}/week`);
  await expect(page.getByText(/over C \| F \| G7/).first()).toBeVisible();
});
