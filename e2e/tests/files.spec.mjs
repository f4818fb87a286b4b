// Open files: a tablature becomes a ladder, a song comes in and leaves, all of it goes along and comes back.
import { readFileSync } from "node:fs";
import { test, expect, expectAccessible } from "./arplin.mjs";

const tab = "A roll, 4/4\n   Am                 C\ne|-------0-------0-|-------0-------0-|\nB|---1-------1-----|---1-------1-----|\nG|-----2-------2---|-----0-------0---|\nD|-----------------|-----------------|\nA|-0-------0-------|-3-------3-------|\nE|-----------------|-----------------|\n";
const saved = async (page, press) => {
  const [download] = await Promise.all([page.waitForEvent("download"), press()]);
  return { name: download.suggestedFilename(), path: await download.path() };
};

test("a pasted tablature is a pattern, and a ladder one press later", async ({ teacher: page }) => {
  await page.goto("/patterns");
  await page.getByRole("link", { name: "Import tablature" }).click();
  await expectAccessible(page);
  await page.getByLabel("Tablature").fill("no lines at all");
  await page.getByRole("button", { name: "Preview" }).click();
  await expect(page.locator("[data-problem]").first()).toContainText("There is no tablature in it");
  await expect(page.getByLabel("Tablature")).toHaveValue("no lines at all");
  await page.getByLabel("Tablature").fill(tab);
  await page.getByRole("button", { name: "Preview" }).click();
  await expect(page.getByRole("heading", { name: /4\/4: p m i a p m i a/ })).toBeVisible();
  await expect(page.locator(".tunebars .chord")).toHaveText(["Am", "C"]);
  await expectAccessible(page);
  const bar = page.getByRole("region", { name: "Play bar" });
  await bar.locator(".playkeys > summary").click();
  await bar.getByLabel("count-in").uncheck(); await bar.locator(".playkeys > summary").click();
  await bar.getByRole("button", { name: "Play" }).click();
  await expect(page.locator(".tunebars .mark.lit").first()).toBeVisible();
  await bar.getByRole("button", { name: "Stop" }).click();
  await page.getByLabel("Name").fill("Quay roll");
  await page.getByRole("button", { name: "Create a ladder from it" }).click();
  await expect(page.getByRole("heading", { name: "Quay roll" })).toBeVisible();
  await expect(page.locator(".step").first()).toBeVisible();
  await expect(page.locator(".openstep .strip").last()).toBeVisible();
});

test("a song leaves as MusicXML and comes in again, shown before it is kept", async ({ teacher: page, school }) => {
  await page.goto(`${school.umbrellas}?pattern=thumb-two-between`);
  await page.getByRole("button", { name: "Song menu" }).click();
  const xml = await saved(page, () => page.getByRole("link", { name: "As MusicXML" }).click());
  expect(xml.name).toBe("Nine Umbrellas.musicxml");
  expect(readFileSync(xml.path, "utf8")).toContain("<fret>3</fret>");
  await page.goto("/songs/new");
  await page.getByLabel("Or a file").setInputFiles({ name: xml.name, mimeType: "application/xml", buffer: readFileSync(xml.path) });
  await expect(page.getByLabel("Chord sheet")).toHaveValue(/{title: Nine Umbrellas}/); // read as soon as it was chosen
  await expect(page.locator("#preview")).toContainText("16 bars");
  await expectAccessible(page);
  await page.getByLabel("Title").fill("Ten Umbrellas");
  await page.getByRole("button", { name: "Save song" }).click();
  await expect(page.getByRole("heading", { name: "Ten Umbrellas" })).toBeVisible();
  await page.goto("/songs/new");
  await page.getByLabel("Or a file").setInputFiles({ name: "broken.mid", mimeType: "audio/midi", buffer: Buffer.from("MThd\0\0") });
  await expect(page.locator("[data-problem]").filter({ hasText: "the file is cut" }).first()).toBeVisible();
});

test("all of it goes along in one file, is held against what is there, and what it brings is taken back", async ({ teacher: page, school }) => {
  await page.goto("/files");
  const all = await saved(page, () => page.getByRole("link", { name: "Export everything" }).click());
  expect(all.name).toMatch(/^Arplin \d{4}-\d\d-\d\d\.arplin\.zip$/);
  const file = { name: all.name, mimeType: "application/zip", buffer: readFileSync(all.path) };
  const look = () => page.getByLabel("An exported file").setInputFiles(file);
  await look();
  await expect(page.getByText("Everything in it is already here.")).toBeVisible();
  await page.goto(school.umbrellas);
  const tempo = page.locator("#song-tempo");
  await tempo.evaluate((field) => field.closest("details")?.setAttribute("open", ""));
  await tempo.fill("132");
  await tempo.press("Enter");
  await expect(page.locator(".toast")).toContainText("Goal 132 BPM");
  await page.goto("/files");
  await look();
  await expect(page.getByRole("row", { name: /^songs 0 1/ })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Import file" }).click();
  await expect(page.locator(".toast")).toContainText("Imported. Songs: 1.");
  await page.goto(school.umbrellas);
  await expect(page.locator(".head .sub").first()).toContainText("84 BPM");
  await page.goto("/files");
  await page.getByRole("button", { name: /^Undo / }).first().click();
  await expect(page.locator(".toast")).toContainText("Undone. Everything");
  await page.goto(school.umbrellas);
  await expect(page.locator(".head .sub").first()).toContainText("132 BPM");
});

test("every format leaves from its page and comes into another account", async ({ teacher: page, school, another }) => {
  await page.goto("/songs");
  await page.getByRole("link", { name: "Buttons in a Biscuit Tin" }).click();
  const song = page.url();
  await page.goto(`${song}/melody?station=alternating`);
  const files = {};
  for (const format of ["chord sheet", "MusicXML", "MIDI", "tablature as text"]) {
    await page.getByRole("button", { name: "Files of this station" }).click();
    files[format] = await saved(page, () => page.getByRole("link", { name: `As ${format}` }).click());
  }
  for (const [format, bars] of [["chord sheet", "16 bars"], ["MusicXML", "16 bars"], ["MIDI", "64 bars"]]) { // MIDI is as it is heard: four times round
    await another.goto("/songs/new");
    await another.getByLabel("Or a file").setInputFiles({ name: files[format].name, mimeType: "application/octet-stream", buffer: readFileSync(files[format].path) });
    await expect(another.locator("#preview")).toContainText(bars);
    await another.getByLabel("Title").fill(`Buttons by ${format}`);
    await another.getByRole("button", { name: "Save song" }).click();
    await expect(another.getByRole("heading", { name: `Buttons by ${format}` })).toBeVisible();
    await another.goto(`${another.url().split("?")[0]}/melody`);
    await expect(another.locator("textarea[name=text]").first()).toHaveValue(/^G4:1=But- G4:1=tons A4:1\/2=in G4:1\/2=a/);
  }
  await another.goto("/patterns/read");
  await another.getByLabel(/file/i).setInputFiles({ name: files["tablature as text"].name, mimeType: "text/plain", buffer: readFileSync(files["tablature as text"].path) });
  await expect(another.locator(".tunebars .chord").first()).toHaveText("G");
  await page.goto(`${school.umbrellas}?pattern=thumb-two-between`);
  await page.getByRole("button", { name: "Song menu" }).click();
  const svg = await saved(page, () => page.getByRole("link", { name: "Its first bar as a picture" }).click());
  expect(readFileSync(svg.path, "utf8")).toMatch(/^<\?xml[^]*<svg[^]*<style/);
  await page.goto("/files");
  const bundle = await saved(page, () => page.getByRole("link", { name: "Export everything" }).click());
  await another.goto("/files");
  await another.getByLabel("An exported file").setInputFiles({ name: bundle.name, mimeType: "application/zip", buffer: readFileSync(bundle.path) });
  await expect(another.getByRole("row", { name: /^songs 5 0/ })).toBeVisible();
  await another.getByRole("button", { name: "Import file" }).click();
  await expect(another.locator(".toast")).toContainText("Songs: 5, classes: 1, students: 9, ladders: 3");
  await another.goto("/songs");
  await expect(another.getByRole("link", { name: "Buttons in a Biscuit Tin" })).toHaveCount(2);
});
