// The whole way: from a song to a sheet for a class.
import { test, expect, expectOnePage, late } from "./arplin.mjs";

const sheet = `{title: Seven Buckets}
{time: 4/4}
{tempo: 76}
{start_of_verse: Verse}
[G]Seven buckets [Em]in a row,
[C]six are full and [D7]one is low.
[G]Carry them [Em]up the hill,
[C]mind the [D7]step and [G]drink your [G]fill.
{end_of_verse}
{start_of_chorus: Chorus}
[C]Up we [G]go,
[D7]never [G]slow,
[C]over the [G]top and [D7]down be[G]low.
{end_of_chorus}`;

test("from a song to a sheet", async ({ teacher: page }) => {
  await page.goto("/");
  await page.getByRole("link", { name: "Songs" }).click();
  await page.getByRole("link", { name: "Add a song" }).click();
  await page.getByLabel("Chord sheet").fill(sheet.replace("[Em]in", "[Xm]in"));
  await page.getByRole("button", { name: "Save song" }).click();
  await expect(page.getByRole("alert")).toContainText('line 5: chord "Xm"');
  await expect(page.getByLabel("Chord sheet")).toHaveValue(/Seven Buckets/);
  await page.getByLabel("Chord sheet").fill(sheet);
  await page.getByRole("button", { name: "Save song" }).click();

  await expect(page.getByRole("heading", { name: "Seven Buckets" })).toBeVisible();
  await expect(page.getByText("G major from the chords")).toBeVisible();
  await expect(page.locator(".onebar")).toHaveCount(18);
  await expect(page.locator(".onebar").first()).toContainText("Seven buckets");
  await expect(page.locator(".onebar").nth(1)).toContainText("vi");
  await expect(page.locator(".shapes")).toContainText("320003 · root string 6");

  await expect(page.getByLabel("Pattern in 4/4").locator("option", { hasText: "Six to a bar" })).toHaveCount(0);
  await page.getByLabel("Pattern in 4/4").selectOption({ label: "Alternating thumb over two bars" });
  await expect(page.locator(".onebar svg.strip")).toHaveCount(18);
  await page.getByLabel("Instrument").selectOption({ label: "Ukulele, high g" });
  await expect(page.locator(".shapes")).toContainText("0232 · thumb string 4");
  await expect(page.locator(".onebar svg.strip").first()).toHaveAttribute("aria-label", /bar 1/);

  await page.getByRole("button", { name: "Create ladder" }).click();
  await expect(page.locator(".step")).toHaveCount(12);
  await expect(page.locator(".step").last()).toContainText("bass on 1");
  await expect(page.locator(".step").first()).toContainText("goal tempo");
  await page.locator(".step").first().focus();
  await expect(page.locator(".openstep")).toContainText("Close it with one stroke");
  expect(await page.locator(".step .newbox").count()).toBeGreaterThan(3);
  await page.locator(".step").nth(-3).focus();
  await expect(page.locator(".openstep")).toHaveAttribute("aria-label", "Step 3");
  expect(await page.locator(".openstep .mark.ghost").count()).toBeGreaterThan(1);

  // Students by keys.
  const waiting = page.locator(".waiting");
  for (const name of ["Ilse", "Tomas", "Nadia", "Ruth", "Wim", "Pia", "Jonas", "Lotte", "Oskar"]) {
    await waiting.getByRole("button", { name }).press("ArrowUp");
    await expect(page.getByRole("status")).toContainText(`${name} is on step 1 now.`);
  }
  const pia = page.getByRole("button", { name: /^Pia/ });
  await expect(pia).toBeVisible();
  await pia.press("ArrowUp");
  await expect(page.getByRole("status")).toContainText("Pia is on step 2 now.");
  await expect(pia).toBeFocused();
  await page.getByRole("status").getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("status")).toContainText("Undone: Pia on step 1.");
  // And by drag, with both ends in sight.
  await page.setViewportSize({ width: 1280, height: 2600 });
  await page.getByRole("button", { name: /^Pia/ }).dragTo(page.locator(".step").nth(-3));
  await expect(page.locator(".step").nth(-3)).toContainText("Pia");
  await page.setViewportSize({ width: 1280, height: 800 });
  // Undo and redo stay, whatever else was done in between.
  await page.locator("[data-go=undo]").click();
  await expect(page.locator(".step").last()).toContainText("Pia");
  await page.locator("[data-go=redo]").click();
  await expect(page.locator(".step").nth(-3)).toContainText("Pia");

  // One line and Enter.
  await page.getByRole("link", { name: "Desk" }).click();
  await expect(page.getByRole("heading", { name: "Seven Buckets" }).getByRole("link")).toBeVisible();
  await page.getByLabel("Log", { exact: true }).fill("pia 58");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("status")).toContainText("Pia: 58, clean, on step 3.");
  await expect(page.getByRole("row", { name: /Pia/ })).toContainText("58");
  await expect(page.getByLabel("Log", { exact: true })).toBeFocused();
  // Or in the person's own field; the cursor goes to the next.
  await page.getByLabel("Tempo of Wim today").fill("44");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("status")).toContainText("Wim: 44");
  await expect(page.getByLabel("Tempo of Pia today")).toBeFocused();
  await page.getByRole("status").getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("row", { name: /Wim/ })).toContainText("no tempo yet");
  // What is typed while an answer is on its way stays.
  await late(page, "**/log", 400);
  await page.getByLabel("Tempo of Lotte today").fill("50");
  await page.keyboard.press("Enter");
  await page.getByLabel("Tempo of Oskar today").fill("47");
  await expect(page.getByRole("status")).toContainText("Lotte: 50");
  await expect(page.getByLabel("Tempo of Oskar today")).toHaveValue("47");
  await expect(page.getByLabel("Tempo of Oskar today")).toBeFocused();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("Undone: that log entry is gone.")).toBeVisible();
  await page.getByLabel("Log", { exact: true }).fill("pia fast");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert").filter({ hasText: "“fast” isn’t a tempo" })).toBeVisible();
  await expect(page.getByText("Undone: that log entry is gone."), "an old success goes when a refusal comes").toHaveCount(0);
  await expect(page.getByLabel("Log", { exact: true })).toHaveValue("pia fast");

  await page.getByRole("link", { name: "Sheet for Pia" }).click();
  const paper = page.locator(".sheet");
  await expect(paper).toContainText("Pia, Ukulele, high g");
  await expect(paper).toContainText("Step 3 of 12.");
  await expect(paper).toContainText("slow 46");
  await expect(paper).toContainText("medium 61");
  await expect(paper).toContainText("goal 76");
  await expect(paper).toContainText("see a doctor");
  await expect(paper.locator("svg.shape")).toHaveCount(1); // the step is on one chord; in the other bars the root
  await expect(paper.locator(".rests").first()).toBeVisible();
  await page.getByLabel("every chord").click();
  await expect(paper.locator("svg.shape")).toHaveCount(4);
  await expect(paper.locator("svg .mark.ghost")).toHaveCount(0);

  await expectOnePage(page);
  await page.getByLabel("For").selectOption({ label: "Nadia" }); // six strings, four chords: the tallest sheet
  await expect(paper).toContainText("Nadia, Guitar");
  await expectOnePage(page);
});

test("a lost connection keeps what was typed", async ({ teacher: page, context }) => {
  await page.goto("/");
  await page.getByLabel("Log", { exact: true }).fill("ilse 81");
  await context.setOffline(true);
  await page.keyboard.press("Enter");
  await expect(page.getByText("You’re offline.")).toBeVisible();
  await expect(page.getByLabel("Log", { exact: true })).toHaveValue("ilse 81");
  await context.setOffline(false); // it goes by itself; Enter at the same moment does no harm
  await page.getByLabel("Log", { exact: true }).press("Enter");
  await expect(page.getByRole("status")).toContainText("81, clean");
});
