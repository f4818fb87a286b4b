// Sheets on paper: one page of A4 for any song of up to twelve chords and 48 bars, on
// six, four and seven strings; longer ones on the pages that the screen announces.
import { execFileSync } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { test, expect, expectOnePage, expectAccessible } from "./arplin.mjs";

const chords = ["C", "Am", "F", "G7", "Dm", "Em", "A7", "D7", "E7", "Bb", "Fm", "G"];
const words = ["rain on the old tin roof", "and", "nobody minds the waiting here", "we go", "up the hill again", "", "lanterns in a row tonight"];

// songOf has bars with these words, in parts of sixteen bars.
function songOf(title, bars, say) {
  const lines = [`{title: ${title}}`, "{tempo: 84}"];
  for (let i = 0; i < bars; i++) {
    if (i % 16 === 0) lines.push("", `{start_of_part: Part ${i / 16 + 1}}`);
    lines.push(`| [${chords[i % chords.length]}]${say(i)} |`);
    if (i % 16 === 15 || i === bars - 1) lines.push("{end_of_part}");
  }
  return lines.join("\n");
}

// ladderOf makes a song and its ladder, and returns the address of the ladder.
async function ladderOf(page, text, pattern) {
  await page.goto("/songs/new");
  await page.getByLabel("Chord sheet").fill(text);
  await page.getByRole("button", { name: "Save song" }).click();
  await expect(page).toHaveURL(/\/songs\/\d+/);
  await page.goto(`${page.url().split("?")[0]}?pattern=${pattern}`);
  await page.getByRole("button", { name: "Create ladder" }).click();
  await expect(page).toHaveURL(/\/ladders\/\d+/);
  return new URL(page.url()).pathname;
}

async function pagesOf(page) {
  const pdf = join(mkdtempSync(join(tmpdir(), "arplin-pdf-")), "sheet.pdf");
  writeFileSync(pdf, await page.pdf({ preferCSSPageSize: true }));
  const text = execFileSync("pdftotext", ["-layout", pdf, "-"], { encoding: "utf8" });
  return { pages: Number(execFileSync("pdfinfo", [pdf], { encoding: "utf8" }).match(/Pages:\s+(\d+)/)[1]), text };
}

const instruments = ["guitar", "ukulele", "tuning:B1-E2-A2-D3-G3-B3-E4"];

for (const [pattern, say] of [["common-strum", (i) => words[i % words.length]], ["thumb-two-bars", (i) => words[i % words.length]], ["sixteenth-strum", () => ""], ["percussive-hybrid", () => "five words for each bar"], ["bass-down-up", (i) => (i % 4 ? "and on" : "as many words as one bar can carry, and two more")]]) {
  test(`one page for twelve chords and 48 bars: ${pattern}`, async ({ teacher: page }) => {
    const ladder = await ladderOf(page, songOf("Twelve", 48, say), pattern);
    for (const instrument of instruments) {
      await page.goto(`${ladder}/sheet?instrument=${instrument}`);
      await expect(page.getByText("Prints on one page.")).toBeVisible();
      await expect(page.locator(".sheet .shape")).toHaveCount(12);
      await expectOnePage(page);
    }
    const steps = await page.getByLabel("Step").locator("option").evaluateAll((list) => list.map((o) => o.value));
    await page.goto(`${ladder}/sheet?step=${steps[0]}&all=yes`);
    await expectOnePage(page);
  });
}

test("a longer song has numbered pages, said before printing, and loses no word", async ({ teacher: page }) => {
  const ladder = await ladderOf(page, songOf("Long", 112, (i) => `word${i} ${words[i % words.length]}`), "common-strum");
  await page.goto(`${ladder}/sheet`);
  await expect(page.getByText(/Prints on \d pages, numbered/)).toBeVisible();
  const said = Number((await page.locator(".pages").textContent()).match(/on (\d+) pages/)[1]);
  const { pages, text } = await pagesOf(page);
  expect(pages).toBe(said);
  for (let n = 1; n <= said; n++) expect(text).toContain(`page ${n} of ${said}`);
  for (let i = 0; i < 112; i++) expect(text).toContain(`word${i}`);
});

test("a short song has four strips, a line of one's own, and comes back to the sheet", async ({ teacher: page }) => {
  const ladder = await ladderOf(page, songOf("Short", 8, () => "a few words"), "thumb-pinch-two");
  await page.goto(`${ladder}/sheet`);
  await expect(page.locator(".sheet .strip")).toHaveCount(4);
  await page.getByLabel(/^Your note/).fill("Bring the capo.");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page).toHaveURL(/sheet/);
  await expect(page.locator(".sheet .remark")).toHaveText("Bring the capo.");
  await expectOnePage(page);
});

test("words and chords of a song are one page, up to eighty bars; a book has a page for each", async ({ teacher: page, school }) => {
  for (const bars of [16, 40, 80]) {
    const parts = Array.from({ length: bars / 8 }, (_, i) => `Verse ${i + 1}:\n[C]Someone is [Am]walking slowly [F]home along [G7]the water\n[C]Nobody is [Am]waiting and the [F]lanterns are [G7]all out`).join("\n\n");
    await page.goto("/songs/new");
    await page.locator("#text").fill(`Long ${bars}\n\n${parts}\n`);
    await expect(page.locator("#preview .onebar")).toHaveCount(bars);
    await page.getByRole("button", { name: /Save/ }).first().click();
    await expect(page.getByRole("heading", { name: `Long ${bars}` })).toBeVisible();
    await page.goto(`${page.url().replace(/[?#].*/, "")}/words`);
    await expect(page.locator(".wordbar")).toHaveCount(bars);
    await expectOnePage(page);
  }
  await page.goto("/songs");
  for (const name of ["Long 16 for the book", "Long 40 for the book"]) await page.getByLabel(name).check();
  await page.getByRole("button", { name: "Print ticked songs as a book" }).click();
  await expect(page.locator(".contents li")).toHaveCount(2);
  await expectAccessible(page);
});
