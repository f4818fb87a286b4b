// The bench and the library.
import { test, expect, expectAccessible, late } from "./arplin.mjs";

test("a two-bar pattern is built by keyboard only, saved, put on a song and printed", async ({ teacher: page }) => {
  await page.goto("/patterns");
  await page.getByRole("link", { name: "New pattern" }).press("Enter");
  const strip = page.locator("[data-strip]");
  const bench = page.locator("#bench-strip");
  await strip.focus();
  const type = async (keys, notation) => {
    for (const key of keys) {
      const before = await bench.evaluate((el) => [el.dataset.notation, el.dataset.bar, el.dataset.slot, el.dataset.stroke].join());
      await page.keyboard.press(key);
      await expect.poll(() => bench.evaluate((el) => [el.dataset.notation, el.dataset.bar, el.dataset.slot, el.dataset.stroke].join())).not.toBe(before);
    }
    await expect(bench).toHaveAttribute("data-notation", notation);
  };
  await type(["p", "ArrowRight", "ArrowRight", "p", "'", "m", "ArrowRight", "ArrowRight", "p", "ArrowRight", "i", "ArrowRight", "p", "'"], "4/4: p . p'+m . p i p' .");
  await type(["+"], "4/4: p . p'+m . p i p' . | p . p'+m . p i p' .");
  await type(["Home", "m", "ArrowRight", "ArrowRight", "m", "ArrowRight", "i"], "4/4: p . p'+m . p i p' . | p+m . p' i p i p' .");
  await expect(strip).toBeFocused();
  await type(["Control+z"], "4/4: p . p'+m . p i p' . | p+m . p' . p i p' .");
  await type(["Control+y"], "4/4: p . p'+m . p i p' . | p+m . p' i p i p' .");
  await expect(page.locator(".onchords figure").first()).toContainText("Guitar, root string 6");
  await expect(page.locator(".onchords figure")).toHaveCount(16); // four chords on four instruments
  await expectAccessible(page);

  await page.getByLabel("Name").fill("Two bars of mine");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Two bars of mine" })).toBeVisible();
  await expect(page.getByText("Your thumb plays the bass strings. Index and middle follow the chord.")).toBeVisible();
  await page.getByLabel("Song in 4/4").selectOption({ label: "Nine Umbrellas" });
  await page.getByRole("button", { name: "Use for this song" }).press("Enter");
  await expect(page.getByText("Pattern: Two bars of mine.")).toBeVisible();
  await expect(page.locator(".onebar svg.strip")).toHaveCount(16);
  const pdf = await page.pdf({ preferCSSPageSize: true });
  expect(pdf.length).toBeGreaterThan(10_000);
  await page.getByRole("status").getByRole("button", { name: "Undo" }).click();
  await expect(page.locator(".onebar svg.strip")).toHaveCount(0);

  // Archived, it is off the list and comes back by undo.
  await page.goto("/patterns");
  await page.getByRole("link", { name: "Two bars of mine" }).click();
  await page.getByRole("button", { name: "Pattern menu" }).click();
  await page.getByRole("button", { name: "Archive this pattern" }).click();
  await expect(page.getByRole("link", { name: "Two bars of mine" })).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("link", { name: "Two bars of mine" })).toBeVisible();
});

test("the notation line, spoken words and the grid edit the same pattern", async ({ teacher: page }) => {
  await page.goto("/bench");
  const bench = page.locator("#bench-strip");
  // The chords below come late here; their answer must not wipe away a sentence.
  await page.route("**/bench", async (route) => {
    if (route.request().postData().includes("part=chords")) await new Promise((later) => setTimeout(later, 400));
    await route.continue();
  });
  await page.getByLabel("Spoken").fill("down, down-up, up-down-up");
  await page.keyboard.press("Enter");
  await expect(bench).toHaveAttribute("data-notation", "4/4: D . D U . U D U");
  await page.getByLabel("Notation").fill("4/4: p i q m");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert")).toContainText('bar 1, slot 3: "q" is not a stroke');
  await page.waitForLoadState("networkidle");
  await expect(page.getByRole("alert")).toContainText('bar 1, slot 3: "q" is not a stroke');
  await expect(page.getByLabel("Notation")).toHaveValue("4/4: p i q m");
  // On a slow line the next edit is made before the last has come back; each is done once.
  await late(page, "**/bench", 300);
  await page.getByLabel("Notation").fill("4/4: p i m a p i m a");
  await page.keyboard.press("Enter");
  await page.getByLabel("Slots a bar").selectOption("4");
  await expect(bench).toHaveAttribute("data-notation", "4/4: p m p m");
  await expect(page.locator(".said")).toContainText("4 strokes between the new slots went");
  await page.waitForLoadState("networkidle");
  await expect(bench).toHaveAttribute("data-notation", "4/4: p m p m");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(bench).toHaveAttribute("data-notation", "4/4: p i m a p i m a");
  // A neighbour is one click away, and undo returns.
  await page.getByText("open for the reasons").click();
  await expect(page.locator(".parts")).toContainText("strokes a second");
  await page.getByText("Simpler and harder").click();
  await page.getByRole("button", { name: "Two rules deep" }).click();
  await expect(page.locator(".neighbours")).toContainText(", then ");
  await page.getByRole("button", { name: "One rule away" }).click();
  await expect(page.locator(".neighbours")).not.toContainText(", then ");
  await page.locator(".neighbours button").first().click();
  await expect(bench).not.toHaveAttribute("data-notation", "4/4: p i m a p i m a");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(bench).toHaveAttribute("data-notation", "4/4: p i m a p i m a");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("alert").first()).toContainText("The pattern needs a name.");
});

test("the library finds, fits and compares", async ({ teacher: page }) => {
  await page.goto("/patterns?two=yes&meter=4/4");
  await expectAccessible(page);
  await expect(page.locator(".card").first()).toContainText("p");
  for (const text of await page.locator(".card code").allTextContents()) expect(text).not.toMatch(/[maDU~]/);
  await page.goto("/patterns");
  await page.getByLabel("For the song").selectOption({ label: "The Baker's Ferry" });
  await expect(page.getByText("For The Baker's Ferry, the best fit first")).toBeVisible();
  await expect(page.locator(".card").first()).toContainText("6/8");
  await expect(page.locator(".card ul").first()).toContainText("can play it on one chord now");
  await page.goto("/patterns/compare?a=common-strum&b=down-up-eighths");
  await expect(page.getByText("Amber is what the other has not.")).toBeVisible();
  expect(await page.locator(".strum.new").count()).toBeGreaterThan(0);
  await expectAccessible(page);
});
