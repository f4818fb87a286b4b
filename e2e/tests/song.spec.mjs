// The song on the fretboard: editing by keyboard, shapes, keys, a stale edit.
import { test, expect, expectAccessible, expectFits, demo } from "./arplin.mjs";

async function ferry(page, query = "") {
  await page.goto("/songs");
  await page.getByRole("link", { name: "The Baker's Ferry" }).click();
  if (query) await page.goto(page.url() + query);
}

test("bars are edited by keyboard, with undo and redo", async ({ teacher: page }) => {
  await ferry(page, "?pattern=six-eight-strum");
  const bars = page.locator(".onebar");
  const note = page.locator("#song .note");
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
  await page.route("**/undo**", async (route) => {
    await new Promise((later) => setTimeout(later, 150));
    await route.continue();
  });
  for (let i = 0; i < 6; i++) await page.keyboard.press("Control+z");
  await expect(bars.nth(1)).toHaveAttribute("data-text", "Em");
  await page.getByRole("button", { name: "Redo" }).click();
  await expect(note).toContainText("Again: Changed bar 2 of Verse.");
  await page.getByRole("button", { name: "Undo", exact: true }).last().click();
  await expect(bars.nth(1)).toHaveAttribute("data-text", "Em");
});

test("a chord takes another shape, and a mistyped one is kept", async ({ teacher: page }) => {
  await ferry(page);
  await page.getByRole("link", { name: "Other shapes of G" }).click();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Take 355433 for G" }).click();
  await expect(page.locator(".shapes")).toContainText("355433 · root string 6 · yours");
  await expect(page.locator(".panel")).toContainText("Easier, and what it gives up");
  await page.getByLabel("A shape of your own").fill("32q003");
  await page.getByRole("button", { name: "Take it", exact: true }).last().click();
  await expect(page.getByText('"q" is not a fret')).toBeVisible();
  await expect(page.getByLabel("A shape of your own")).toHaveValue("32q003");
  await page.getByLabel("A shape of your own").fill("");
  await page.getByRole("button", { name: "Take it", exact: true }).last().click();
  await expect(page.locator(".shapes")).toContainText("320003 · root string 6");
});

test("one click puts a key on for everybody, undo takes it off", async ({ teacher: page }) => {
  await ferry(page);
  await page.getByRole("link", { name: "Keys and capo" }).click();
  await expectAccessible(page);
  await page.getByLabel("Lowest and highest sung note").fill("D4 E5");
  await page.getByRole("button", { name: "Set" }).click();
  await expect(page.getByRole("row", { name: /^G major/ })).toContainText("2 semitones outside");
  await page.getByRole("button", { name: "Put F major on" }).click();
  await expect(page.getByRole("status")).toContainText("The song sounds in F major.");
  await expect(page.getByRole("row", { name: /^F major/ })).toContainText("on now");
  await page.getByRole("link", { name: "Back to the song" }).click();
  await expect(page.getByText(/^F major/)).toContainText("capo");
  await expect(page.locator(".shapes")).toContainText("sounds F");
  await page.getByLabel("Instrument").selectOption({ label: "Ukulele, high g" });
  await expect(page.locator(".onebar").first()).toContainText("F");
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(page.locator("#song .note")).toContainText("Taken back: The song sounds in F major");
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
    if (who === second) await expect(who.locator("#song .note")).toContainText("Changed bar 2");
  }
  await expect(page.locator(".clash")).toContainText("Em7");
  await expect(page.locator(".clash")).toContainText("Bm");
  await page.getByRole("button", { name: "Put mine in" }).click();
  await expect(page.locator(".onebar").nth(1)).toHaveAttribute("data-text", "Em7");
  await page.getByRole("button", { name: "Undo", exact: true }).last().click();
  await expect(page.locator(".onebar").nth(1)).toHaveAttribute("data-text", "Bm");
  await second.context().close();
});

test("the form is printed as it is sung", async ({ teacher: page }) => {
  await page.goto("/songs");
  await page.getByRole("link", { name: "Nine Umbrellas" }).click();
  await page.getByText("Part", { exact: true }).first().click();
  await page.getByLabel("Played").first().fill("2");
  await page.getByRole("button", { name: "times" }).first().click();
  await expect(page.getByRole("heading", { name: /Verse/ })).toContainText("played 2 times");
  const bar = page.locator(".onebar").nth(7);
  await bar.focus();
  await page.keyboard.press("Enter");
  await bar.locator("[data-op=ending]").selectOption("1");
  await expect(page.locator(".onebar").nth(7)).toContainText("1.");
  await page.goto("/ladders");
  await page.locator(".ladders a", { hasText: "Nine Umbrellas" }).last().click();
  await page.getByRole("link", { name: "Sheet of step 1", exact: true }).click();
  await expect(page.locator(".sheet")).toContainText("Verse, 2 times");
  await expect(page.locator(".sheetbars .ending")).toHaveText("1.");
});

test("a class chooses how it plays", async ({ teacher: page }) => {
  await page.goto("/class");
  await page.getByLabel("Left hand").selectOption("yes");
  await page.getByLabel("up to").fill("high");
  await page.getByRole("button", { name: "Save how it plays" }).click();
  await expect(page.getByRole("alert")).toContainText('"high" is not a pitch');
  await page.getByLabel("up to").fill("E5");
  await page.getByRole("button", { name: "Save how it plays" }).click();
  await page.goto("/songs/1?pattern=thumb-two-between");
  await expect(page.locator(".shapes")).toContainText("lean");
  await page.goto("/class");
  await page.getByLabel("Left hand").selectOption("no");
  await page.getByLabel("up to").fill("D5");
  await page.getByRole("button", { name: "Save how it plays" }).click();
});

test("a class weighs the parts and sees what moves before it saves", async ({ teacher: page }) => {
  await page.goto("/class");
  await page.getByRole("link", { name: /What counts as hard/ }).click();
  await expect(page.getByText("Nothing: every part counts as fitted.")).toBeVisible();
  await page.getByLabel(/^touch/).selectOption("3 times");
  await expect(page.getByRole("row", { name: /Pinch and nails/ })).toContainText("+");
  await page.getByRole("link", { name: "Leave it as it was" }).click();
  await expect(page.getByText("Nothing: every part counts as fitted.")).toBeVisible();
  await page.getByLabel(/^touch/).selectOption("3 times");
  await page.getByRole("button", { name: "Save it for Tuesday evening" }).click();
  await expect(page.getByRole("status")).toContainText("Saved.");
  await expect(page.getByLabel(/^touch/)).toHaveValue("3");
  await page.getByLabel(/^touch/).selectOption("as fitted");
  await page.getByRole("button", { name: "Save it for Tuesday evening" }).click();
  await expect(page.getByText("Nothing: every part counts as fitted.")).toBeVisible();
  await page.setViewportSize({ width: 360, height: 800 });
  await expectFits(page);
});

test("a neighbour is taken on the song, a move is done, and both are taken back", async ({ teacher: page }) => {
  await page.goto("/songs/3?pattern=three-roll");
  const around = page.locator(".around");
  await expect(around).toContainText("Simpler and harder");
  await expect(around.locator("svg.strip .new").first()).toBeVisible();
  await around.getByRole("region", { name: "Simpler" }).getByRole("button").first().click();
  const status = page.locator("#song > .note");
  await expect(status).toContainText("Put Three strings up and back".slice(0, 3));
  await expect(page).toHaveURL(/\/songs\/3\?.*pattern=(&|$)/); // the song has its own now
  await status.getByRole("button", { name: "Undo" }).click();
  await expect(status).toContainText("Taken back: Put");
  await page.goto("/songs/3?pattern=three-roll");
  await around.getByRole("link", { name: "Two rules deep" }).click();
  await expect(page.locator("#neighbours")).toContainText(", then ");
  await page.getByRole("link", { name: "One rule away" }).click();
  await page.getByRole("button", { name: "Do it: colour chords" }).click();
  await expect(page.locator(".onebar").first()).toContainText("Am7");
  await status.getByRole("button", { name: "Undo" }).click();
  await expect(page.locator(".onebar").first()).not.toContainText("Am7");
});
