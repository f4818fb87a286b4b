// The song on the fretboard: editing by keyboard, shapes, keys, a stale edit.
import { test, expect, expectAccessible, expectFits, late, demo } from "./arplin.mjs";

async function ferry(page, query = "") {
  await page.goto("/songs");
  await page.getByRole("link", { name: "The Baker's Ferry" }).click();
  if (query) await page.goto(page.url() + query);
}

test("bars are edited by keyboard, with undo and redo", async ({ teacher: page }) => {
  await ferry(page, "?pattern=six-eight-strum");
  const bars = page.locator(".onebar");
  const note = page.getByRole("status");
  await bars.first().focus();
  await page.keyboard.press("ArrowRight");
  await expect(bars.nth(1)).toBeFocused();
  await page.keyboard.press("Enter");
  await page.keyboard.type("Em:3 B7:2");
  await page.keyboard.press("Enter");
  await expect(note).toContainText("Changed bar 2 of Verse.");
  await expect(bars.nth(1)).toContainText("5 of 6 beats: the bar does not add up.");
  await expect(bars.nth(1).locator("svg.strip")).toBeVisible();
  await expect(bars.nth(1)).toBeFocused();
  await page.keyboard.press("s");
  await expect(bars).toHaveCount(19);
  await page.keyboard.press("j");
  await expect(bars).toHaveCount(18);
  await page.keyboard.press("i");
  await expect(bars).toHaveCount(19);
  await expect(bars.nth(2)).toBeFocused();
  await page.keyboard.press("Delete");
  await expect(bars).toHaveCount(18);
  await page.keyboard.press("Enter");
  await page.keyboard.type("H9");
  await page.keyboard.press("Enter");
  await expect(bars.nth(2)).toContainText('"H" is not a note from A to G');
  // Quickly, and on a slow line: each is taken back once.
  await late(page, "**/undo**", 150);
  for (let i = 0; i < 6; i++) await page.keyboard.press("Control+z");
  await expect(bars.nth(1)).toHaveAttribute("data-text", "Em");
  await page.getByRole("button", { name: "Redo" }).click();
  await expect(note).toContainText("Again: Changed bar 2 of Verse.");
  await page.locator("[data-go=undo]").click();
  await expect(bars.nth(1)).toHaveAttribute("data-text", "Em");
});

test("a chord takes another shape, and a mistyped one is kept", async ({ teacher: page }) => {
  await ferry(page);
  await page.getByRole("link", { name: "Other shapes of G" }).click();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Use 355433 for G" }).click();
  await expect(page.locator(".shapes")).toContainText("355433 · root string 6 · yours");
  await expect(page.locator(".panel")).toContainText("Easier shapes, and what they give up");
  await page.getByLabel("Your own shape").fill("32q003");
  await page.getByRole("button", { name: "Use it", exact: true }).last().click();
  await expect(page.getByText('"q" is not a fret')).toBeVisible();
  await expect(page.getByLabel("Your own shape")).toHaveValue("32q003");
  await page.getByLabel("Your own shape").fill("");
  await page.getByRole("button", { name: "Use it", exact: true }).last().click();
  await expect(page.locator(".shapes")).toContainText("320003 · root string 6");
});

test("one click puts a key on for everyone, undo takes it off", async ({ teacher: page }) => {
  await ferry(page);
  await page.getByRole("link", { name: "Keys and capo" }).click();
  await expectAccessible(page);
  await page.getByLabel("Lowest and highest sung note").fill("D4 E5");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("row", { name: /^G major/ })).toContainText("2 semitones outside");
  await page.getByRole("button", { name: "Put F major on" }).click();
  await expect(page.getByRole("status")).toContainText("Key of F major.");
  await expect(page.getByRole("row", { name: /^F major/ })).toContainText("current");
  await page.getByRole("link", { name: "Back to the song" }).click();
  await expect(page.getByText(/^F major/)).toContainText("capo");
  await expect(page.locator(".shapes")).toContainText("sounds F");
  await page.getByLabel("Instrument").selectOption({ label: "Ukulele, high g" });
  await expect(page.locator(".onebar").first()).toContainText("F");
  await page.locator("[data-go=undo]").click();
  await expect(page.getByRole("status")).toContainText("Undone: Key of F major");
  await expect(page.locator(".onebar").first()).toContainText("G");
});

test("a stale edit shows both texts", async ({ teacher: page, browser }) => {
  await ferry(page);
  const second = await (await browser.newContext({ baseURL: demo.address, storageState: await page.context().storageState() })).newPage();
  await second.goto(page.url());
  for (const [who, text] of [[second, "Bm"], [page, "Em7"]]) {
    await who.locator(".onebar").nth(1).focus();
    await who.keyboard.press("Enter");
    await who.keyboard.type(text);
    await who.keyboard.press("Enter");
    if (who === second) await expect(who.getByRole("status")).toContainText("Changed bar 2");
  }
  await expect(page.locator(".clash")).toContainText("Em7");
  await expect(page.locator(".clash")).toContainText("Bm");
  await page.getByRole("button", { name: "Use my version" }).click();
  await expect(page.locator(".onebar").nth(1)).toHaveAttribute("data-text", "Em7");
  await page.locator("[data-go=undo]").click();
  await expect(page.locator(".onebar").nth(1)).toHaveAttribute("data-text", "Bm");
  await second.context().close();
});

test("the form is printed as it is sung", async ({ teacher: page, school }) => {
  await page.goto("/songs");
  await page.getByRole("link", { name: "Nine Umbrellas" }).click();
  await page.getByText("Section", { exact: true }).first().click();
  await page.getByLabel("Played").first().fill("2");
  await page.getByRole("button", { name: "times" }).first().click();
  await expect(page.getByRole("heading", { name: /Verse/ })).toContainText("played 2 times");
  const bar = page.locator(".onebar").nth(7);
  await bar.focus();
  await page.keyboard.press("Enter");
  await bar.locator("[data-op=ending]").selectOption("1");
  await expect(page.locator(".onebar").nth(7)).toContainText("1.");
  await page.goto(school.ladder);
  await page.locator(".step").last().focus();
  await expect(page.locator(".openstep")).toHaveAttribute("aria-label", "Step 1");
  await page.locator(".openstep").getByRole("link", { name: "Sheet" }).click();
  await expect(page.locator(".sheet")).toContainText("Verse, 2 times");
  await expect(page.locator(".sheetbars")).toContainText(["1. "]);
});

test("a class chooses how it plays", async ({ teacher: page, school }) => {
  await page.goto("/class");
  await page.locator("summary", { hasText: "Playing style" }).click();
  await page.getByLabel("Left hand").selectOption("yes");
  await page.getByLabel("up to").fill("high");
  await page.getByRole("button", { name: "Save playing style" }).click();
  await expect(page.getByRole("alert")).toContainText('"high" is not a pitch');
  await page.getByLabel("up to").fill("E5");
  await page.getByRole("button", { name: "Save playing style" }).click();
  await expect(page.getByRole("status")).toContainText("Saved");
  await page.goto(school.umbrellas + "?pattern=thumb-two-between");
  await expect(page.locator(".shapes")).toContainText("only the fingers you need");
});

test("a class weighs the parts and sees what moves before it saves", async ({ teacher: page }) => {
  await page.goto("/class");
  await page.getByRole("button", { name: "Class menu" }).click();
  await page.getByRole("link", { name: /What counts as hard/ }).click();
  await expect(page.getByText("Nothing. Every factor counts as before.")).toBeVisible();
  await page.getByLabel(/^Touch/i).selectOption("3 times");
  await expect(page.getByRole("row", { name: /Pinch/ }).first()).toContainText("+");
  await page.getByRole("link", { name: "Cancel" }).click();
  await expect(page.getByText("Nothing. Every factor counts as before.")).toBeVisible();
  await page.getByLabel(/^Touch/i).selectOption("3 times");
  await page.getByRole("button", { name: "Save it for Tuesday evening" }).click();
  await expect(page.getByRole("status")).toContainText("Saved");
  await expect(page.getByLabel(/^Touch/i)).toHaveValue("3");
  await page.getByLabel(/^Touch/i).selectOption("as it is");
  await page.getByRole("button", { name: "Save it for Tuesday evening" }).click();
  await expect(page.getByText("Nothing. Every factor counts as before.")).toBeVisible();
  await page.setViewportSize({ width: 360, height: 800 });
  await expectFits(page);
});

test("a neighbour is used on the song, a move is done, and both are taken back", async ({ teacher: page, school }) => {
  await page.goto(school.frost + "?pattern=three-roll");
  const around = page.locator("#around");
  await around.getByText("Simpler and harder").click();
  await expect(around.locator("svg.strip .new").first()).toBeVisible();
  await around.getByRole("region", { name: "Simpler" }).getByRole("button").first().click();
  const status = page.getByRole("status");
  await expect(status).toContainText("Pattern: ");
  await expect(page).not.toHaveURL(/pattern=three-roll/); // the song has its own now
  await expect(around.getByRole("region", { name: "Simpler" }), "what was opened stays open").toBeVisible();
  await status.getByRole("button", { name: "Undo" }).click();
  await expect(status).toContainText("Undone: Pattern");
  await page.goto(school.frost + "?pattern=three-roll");
  await around.getByText("Simpler and harder").click();
  await around.getByRole("link", { name: "Two rules deep" }).click();
  await expect(page.locator("#neighbours")).toContainText(", then ");
  await page.getByRole("link", { name: "One rule away" }).click();
  await expect(page.locator("#neighbours")).not.toContainText(", then ");
  await page.getByRole("button", { name: "Apply: sevenths for triads" }).click();
  await expect(page.locator(".onebar").first()).toContainText("Am7");
  await status.getByRole("button", { name: "Undo" }).click();
  await expect(page.locator(".onebar").first()).not.toContainText("Am7");
});

test("heading and lists follow an edit at once, and what is typed elsewhere stays", async ({ teacher: page, school }) => {
  await page.goto(school.umbrellas);
  await page.locator(".onebar").nth(2).focus();
  await page.keyboard.press("Enter");
  await page.getByLabel("Words", { exact: true }).fill("not sent yet");
  await page.getByText("Time signature, tempo, form").click();
  await page.locator(".edittools").getByLabel("Time signature").selectOption("3/4");
  await page.getByRole("button", { name: "Save", exact: true }).first().click();
  await expect(page.locator(".head")).toContainText("3/4");
  await expect(page.getByLabel("Pattern in 3/4").locator("option", { hasText: "Three" }).first()).toBeAttached();
  await expect(page.getByLabel("Words", { exact: true }), "an open bar stays open").toHaveValue("not sent yet");
  await expect(page.getByLabel("Goal in BPM")).toBeVisible();
});

test("what is pasted is shown as it is understood, and mended on its page", async ({ teacher: page }) => {
  await page.goto("/songs/new");
  await page.locator("#text").fill("A Found One\n\nVerse 1:\nC            G\nChords stand above the words\ne|--0--1--3--|\n\nVerse 2:\nthese are sung upon the same\n[Xq]odd");
  const preview = page.getByRole("region", { name: "How Arplin reads it" });
  await expect(preview).toContainText("A Found One");
  await expect(preview).toContainText("Verse 2");
  await expect(preview).toContainText('"X" is not a note from A to G');
  await expect(preview.locator(".onebar")).toHaveCount(5);
  await page.locator("#text").focus();
  await page.keyboard.press("Control+End");
  await page.keyboard.type(" and on");
  await expect(preview).toContainText("odd and on");
  await expect(page.locator("#text")).toBeFocused();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Save anyway and fix later" }).click();
  await expect(page.getByRole("heading", { name: "A Found One" })).toBeVisible();
  await page.getByText("e|--0--1--3--|").first().click();
  await page.getByLabel("Lines of the sheet before bar 3").fill("hum here");
  await page.getByRole("button", { name: "Save note" }).click();
  await expect(page.getByRole("status")).toContainText("Changed the note before bar 1 of Verse 2.");
  await expect(page.getByText("hum here").first()).toBeVisible();
  await page.locator("[data-go=undo]").click();
  await expect(page.getByText("e|--0--1--3--|").first()).toBeVisible();
  await expectAccessible(page);
  await expectFits(page);
});

test("what is typed in a bar's editor outlives the editor's other controls, and another bar", async ({ teacher: page, school }) => {
  await page.goto(school.umbrellas);
  const bars = page.locator(".onebar");
  await bars.nth(1).focus();
  await page.keyboard.press("Enter");
  await page.keyboard.type("Am F");
  await bars.nth(1).locator("[data-op=role]").selectOption("stop");
  await expect(bars.nth(1)).toContainText("stop");
  await expect(bars.nth(1).locator("[name=text]")).toHaveValue("Am F");
  await bars.nth(3).locator(".chords").click();
  await expect(bars.nth(1)).toHaveAttribute("data-text", "Am F");
  await expect(bars.nth(1).locator(".bareditor")).toHaveCount(0);
  await expect(bars.nth(3).locator(".bareditor")).toBeVisible();
  // Each part has a pattern of its own.
  await page.keyboard.press("Escape");
  await page.getByText("Section", { exact: true }).first().click();
  await page.getByLabel("Pattern of this part").first().selectOption({ label: "Thumb, once a bar" });
  await page.getByRole("button", { name: "Use pattern", exact: true }).first().click();
  await expect(page.locator(".part").first().locator("svg.strip").first()).toBeVisible();
  await expect(page.locator(".part").nth(1).locator("svg.strip")).toHaveCount(0);
  await expectAccessible(page);
});
