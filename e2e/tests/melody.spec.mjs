// A tune: typed, put on strings, a note on another string, the stations, heard, printed.
import { test, expect, expectAccessible, expectOnePage } from "./arplin.mjs";

test("a melody is typed, lies on the strings, and has its stations", async ({ teacher: page, school }) => {
  await page.goto(school.umbrellas);
  await page.getByRole("link", { name: "Melody", exact: true }).click();
  await expect(page.getByText("There’s no melody yet.")).toBeVisible();
  await expectAccessible(page);
  const notes = page.getByLabel(/A pitch and how many beats/).first();
  await notes.fill("E4:1=Nine E=um H4");
  await page.getByRole("button", { name: "Place on strings" }).first().click();
  await expect(page.locator("[data-problem]").filter({ hasText: "\"H4\" is not a note" }).first()).toBeVisible();
  await expect(notes).toHaveValue("E4:1=Nine E=um H4"); // nothing typed is lost
  await notes.fill("E4:1=Nine E=um- G=brel- A=las | C5:2 A4:1 G | A:1 F A:2 | G:1/2 F E D:1/2 B3:2");
  await page.getByRole("button", { name: "Place on strings" }).first().click();
  await expect(page.locator(".toast")).toContainText("Wrote the melody of Verse");
  await expect(page.locator(".stations li")).toHaveCount(6);
  await expect(page.locator(".stations [aria-current]")).toContainText("the melody over alternating bass");
  const first = page.locator(".tunebars > li").first();
  await expect(first.locator(".mark.tune")).toHaveCount(4);
  await expect(first.locator(".syllable")).toHaveText(["Nine", "um-", "brel-", "las"]);
  await expect(first.locator(".becomes")).toHaveText("sounds as C6");
  await expectAccessible(page);

  // A note goes to another string and back, the rest follows; undo, too.
  const note = first.locator(".tunenotes button").first();
  await expect(note).toHaveAccessibleName(/^E4 on string 1;/);
  await note.click();
  await expect(note).toHaveAccessibleName(/^E4 on string 2, your choice/);
  await expect(page.locator(".toast")).toContainText("Put E4 of bar 1 of Verse on string 2");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(note).toHaveAccessibleName(/^E4 on string 1;/);

  // It is heard, the tune without the thumb, too.
  const bar = page.getByRole("region", { name: "Play bar" });
  await bar.locator(".playkeys > summary").click();
  await expect(() => bar.getByLabel("count-in").uncheck({ timeout: 2000 })).toPass(); // while the score comes, the bar moves
  await bar.locator(".playkeys > summary").click();
  await bar.getByRole("button", { name: "Play" }).click();
  await expect(first.locator(".mark.tune.lit")).toHaveCount(1);
  const heard = await page.evaluate(() => Alpine.$data(document.querySelector("[data-play]")).score.notes.filter((x) => x.by === "melody").map((x) => x.m).slice(0, 6));
  expect(heard).toEqual([64, 64, 67, 69, 72, 69]); // E4 E4 G4 A4 C5 A4 (MIDI 1.0)
  await bar.getByRole("button", { name: "Stop" }).click();

  // The other stations; a ukulele; paper.
  await page.getByRole("link", { name: /the melody alone/ }).click();
  await expect(page.locator(".stationsays")).toContainText("Single notes on the thin strings");
  await expect(page.locator(".tunebars .letter").filter({ hasText: /^p$/ })).toHaveCount(0);
  await page.getByRole("link", { name: /shapes with the melody on top/ }).click();
  await expect(page.locator(".tunebars .strum").first()).toBeVisible();
  await page.getByLabel("Instrument").selectOption("ukulele");
  await expect(page.locator(".left")).toContainText("B3 is below the strings, but there’s a place an octave higher");
  await page.goto(`${school.umbrellas}/melody?station=alternating`);
  await expectOnePage(page);
});

test("a melody is typed on its strips, becomes a ladder, and its students have sheets of it", async ({ teacher: page, school }) => {
  await page.goto(`${school.umbrellas}/melody`);
  const bars = page.locator(".tunebars .onebar");
  const typed = page.getByLabel(/A pitch and how many beats/).first();
  const press = async (key, tune) => {
    await page.keyboard.press(key);
    await expect(typed).toHaveValue(tune);
  };
  await bars.first().focus();
  await expect(bars.first().locator(".notecursor")).toHaveCount(1);
  await press("e", "E4:1");
  await press("g", "E4:1 G4:1");
  await press("ArrowUp", "E4:1 G#4:1"); // the note that was typed last
  await press("ArrowDown", "E4:1 G4:1");
  await press("-", "E4:1 G4:1/2");
  await press("a", "E4:1 G4:1/2 A4:1/2");
  await press("^", "E4:1 G4:1/2 ^A4:1/2");
  await press("+", "E4:1 G4:1/2 ^A4:1");
  await page.keyboard.press("ArrowRight");
  await press("c", "E4:1 G4:1/2 ^A4:1 r:1/2 C5:1");
  await expect(bars.nth(1)).toBeFocused(); // the bar is full
  await press("a", "E4:1 G4:1/2 ^A4:1 r:1/2 C5:1 | A4:1");
  await press("Delete", "E4:1 G4:1/2 ^A4:1 r:1/2 C5:1");
  await press("Control+z", "E4:1 G4:1/2 ^A4:1 r:1/2 C5:1 | A4:1");
  await bars.nth(1).locator("svg.strip").click({ position: { x: 30, y: 60 } }); // the first slot
  await press("Shift+ArrowDown", "E4:1 G4:1/2 ^A4:1 r:1/2 C5:1 | A3:1");
  await page.keyboard.press("/");
  await expect(page.locator("[data-problem]").filter({ hasText: "no note straight before it" })).toHaveCount(0); // C5 sounds up to it
  await expect(typed).toHaveValue("E4:1 G4:1/2 ^A4:1 r:1/2 C5:1 | /A3:1");
  await expectAccessible(page);

  await page.getByRole("button", { name: "Create a ladder from it" }).click();
  await expect(page.getByRole("heading", { name: "slides and hammered notes" })).toBeVisible();
  await expect(page.locator(".step")).toHaveCount(8);
  await expectAccessible(page);
  await page.getByRole("button", { name: /Place everyone by/ }).click();
  await expect(page.locator(".step .chip")).toHaveCount(9);
  await page.locator(".step").last().press("s");
  await expect(page.locator("[data-problem]").filter({ hasText: "the stations of the melody" }).first()).toBeVisible();
  await page.getByRole("link", { name: "Together" }).click();
  await expect(page.locator("#together [data-lane]").first()).toBeVisible();
  await page.goBack();
  await page.locator(".step").nth(-6).focus();
  await expect(page.locator(".openstep")).toHaveAttribute("aria-label", "Step 6");
  await page.locator(".openstep").getByRole("link", { name: "Sheet" }).click();
  await expect(page.locator(".sheet .tunebars .onebar")).toHaveCount(16);
  await expect(page.locator(".sheet .mark.tune").first()).toBeVisible();
});

test("a song grows: who plays what is proposed, changed, played together, printed", async ({ teacher: page, school }) => {
  await page.goto(school.ladder);
  await page.getByRole("link", { name: "Who plays what" }).click();
  await expect(page.getByText("Suggested from where everyone is")).toBeVisible();
  await expectAccessible(page);
  const jonas = page.getByLabel("Jonas in part 1, Verse");
  await jonas.selectOption({ label: "the bass on 1" });
  await expect(page.getByText("Your arrangement")).toBeVisible();
  await jonas.selectOption({ index: 8 });
  await expect(page.getByRole("listitem").filter({ hasText: "Jonas is stretched in part 1" })).toBeVisible();
  await page.getByLabel("Ilse in part 1, Verse").selectOption({ label: "rest" });
  await expect(page.getByLabel("Ilse in part 1, Verse")).toHaveValue("rest");

  await page.getByRole("link", { name: "Play together" }).click();
  const room = page.locator("#together");
  const ilse = room.locator("[data-lane]").filter({ hasText: "Ilse" });
  await expect(ilse.locator("[data-part]")).toHaveText("rest");
  await page.keyboard.press("PageDown");
  for (let i = 0; i < 130; i++) await page.keyboard.press("+");
  await expect(room.locator(".section")).toHaveText("Chorus", { timeout: 30_000 });
  await expect(ilse.locator("[data-part]")).toHaveText(/picking/); // its part has changed on the way
  await page.keyboard.press("PageDown");

  await page.goto(`${school.ladder}/grow`);
  await page.getByRole("row", { name: /^Ilse/ }).getByRole("link", { name: "Sheet" }).click();
  await expect(page.getByRole("heading", { name: "Nine Umbrellas" })).toBeVisible();
  await expectOnePage(page);
  await page.goto(`${school.ladder}/grow`);
  await page.getByRole("button", { name: "Suggest again" }).click();
  await expect(page.getByText("Suggested from where everyone is")).toBeVisible();
});
