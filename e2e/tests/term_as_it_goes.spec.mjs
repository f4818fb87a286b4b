// A class over a term as it really goes: a list out of a mail, beginners who strum, a newcomer.
import { test, expect, expectAccessible } from "./arplin.mjs";

const list = `Hi Kim, here is my new lot:

Brook, Zoë, ukelele
Ben Hill - tenor, 9 years old
Ada (acoustic), small hands
Jo & Mia, guitar
Otis, bass
Quinn, 0161 496 0123
Nell <nell@post.test>, left
7. Wilf, 20 min
Otto
Otto
Ivy, soprano uke
Thanks, see you on Friday!
`;

test("a list as it is found is shown as it was read, and those who were read are added", async ({ teacher: page }) => {
  await page.goto("/class");
  await page.getByText("Paste a list", { exact: true }).click();
  await page.locator("#list").fill(list);
  await page.getByRole("button", { name: "Add all" }).click();
  const look = page.getByRole("alert", { name: "How Arplin read the list" });
  for (const says of ["Line 7, “Otis, bass”: “bass” isn’t an instrument Arplin has", "Line 12, “Otto”: there are two called Otto", "Line 1, ", "Line 4, “Ben Hill - tenor, 9 years old”: an age", "“small hands”", "a phone number", "a mail address", "Line 14, "]) await expect(look).toContainText(says);
  await expect(look).toContainText("10 students: Zoë, Ukulele, high g; Ben, Ukulele, high g; Ada, Guitar");
  await expectAccessible(page);
  await expect(page.locator("#list")).toHaveValue(list);
  await page.getByRole("button", { name: "Add these 10" }).click();
  await expect(page.getByRole("status")).toContainText("Added 10 students");
  await expect(page.getByRole("row", { name: /^Nell/ })).toContainText("left-handed");
  await expect(page.getByRole("row", { name: /^Otis/ })).toHaveCount(0);
});

test("beginners who strum: nobody is stuck, a newcomer is placed, faults are the hand's, the plan goes on", async ({ teacher: page }) => {
  await page.goto("/class");
  await page.getByText("Another class").click();
  await page.locator("#class-name").fill("Beginners");
  const names = ["Anni", "Bela", "Carl", "Dora", "Emil", "Fenn", "Gus", "Hedi", "Ivo", "Jule", "Kaj", "Lina", "Milo", "Nora", "Olav", "Pim"];
  await page.locator("#class-list").fill(names.join("\n"));
  await page.getByRole("button", { name: "Create class" }).click();
  await expect(page.getByRole("status")).toContainText("Added 16 students");
  await page.goto("/songs/new");
  await page.locator("#text").fill("Three Pebbles\n\nVerse:\n| C | F | C | G7 |\n");
  await expect(page.locator("#preview .onebar")).toHaveCount(4);
  await page.getByRole("button", { name: /Save/ }).first().click();
  await expect(page.getByRole("heading", { name: "Three Pebbles" })).toBeVisible();
  await page.goto(`${page.url().replace(/[?#].*/, "")}?pattern=common-strum`);
  await page.getByRole("button", { name: "Create ladder" }).click();
  await page.getByRole("button", { name: "Put everyone on step 1" }).click();
  await expect(page.locator("#chip-0, .chip").first()).toBeVisible();
  const ladder = page.url().replace(/[?#].*/, "");

  // The first evening: no last time; a fault of the hand has a remedy of the hand.
  await page.goto("/lesson");
  await expect(page.locator("li.is-last-time")).toHaveCount(0);
  await page.goto("/");
  const line = page.locator("#line");
  const log = async (text) => {
    await line.fill(text);
    await line.press("Enter");
    await expect(page.getByRole("status")).toContainText(/clean/);
    await expect(line).toHaveValue("");
  };
  await log("anni 50 hs");
  await log("anni 50 hs");
  await log("anni 50 hs");
  await expect(page.locator(".decide").first()).toContainText("Keep your hand going down and up");
  await expect(page.locator(".decide").first()).not.toContainText("thumb");
  const goal = Number((await page.locator(".head .sub").first().textContent()).match(/(\d+) BPM/)?.[1] ?? 80);
  for (const name of names.slice(1)) for (let i = 0; i < 3; i++) await log(`${name} ${goal}`);
  await expect(page.getByRole("button", { name: /Move up all 15 who are ready/ })).toBeVisible();
  await page.getByRole("button", { name: /Move up all 15 who are ready/ }).click();
  await expect(page.getByRole("status")).toContainText("Bela 2, Carl 2");

  // A newcomer in the middle of it stands in the plan.
  await page.goto("/class#add");
  await page.locator("#name").fill("Quinn");
  await page.locator("form:has(#name) button.btn-primary").first().click();
  await page.goto("/lesson");
  await expect(page.getByText("Place Quinn")).toBeVisible();
  await expect(page.locator("li.is-new")).not.toContainText("only said and tapped");
  await page.getByRole("button", { name: "Move the group up" }).first().click();
  await expect(page.getByRole("status")).toBeVisible();
  await page.goto(ladder);
  await expectAccessible(page);
});

test("two ladders of a song: the one in use keeps its place until the teacher says otherwise", async ({ teacher: page, school }) => {
  await page.goto(`${school.umbrellas}?pattern=common-strum`);
  await page.getByRole("button", { name: "Create ladder" }).click();
  await expect(page.locator(".step").first()).toBeVisible();
  await page.getByText("Edit ladder").click();
  await page.getByLabel("Name of the ladder").fill("For the strummers");
  await page.getByRole("button", { name: "Save name" }).click();
  await expect(page.getByRole("status")).toContainText("Name saved.");
  await page.goto("/");
  const rivals = page.locator(".rivals");
  await expect(rivals).toContainText("Nine Umbrellas has another ladder here: For the strummers, nobody on it.");
  await expect(page.getByRole("row", { name: /^Ilse/ })).toContainText("6");
  await expectAccessible(page);
  await page.goto("/lesson");
  await expect(page.locator("li.is-groups")).toContainText("Nine Umbrellas");
  await page.goto("/");
  await rivals.getByRole("button", { name: "Use that one instead" }).click();
  await expect(page.locator(".rivals")).toHaveCount(0);
  await expect(page.getByText("For the strummers").first()).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await page.waitForURL(/\/ladders\/\d+/); // the ladder that is back on the desk
  await page.goto("/");
  await expect(rivals).toBeVisible();
});

test("a term has its hour, a week off and two songs; the calendar has them", async ({ teacher: page, school }) => {
  await page.goto("/term");
  await page.getByText("Days, song and name").click();
  const begins = await page.getByLabel("First lesson").inputValue();
  const week = (n) => { const d = new Date(`${begins}T12:00:00Z`); d.setUTCDate(d.getUTCDate() + 7 * n); return d.toISOString().slice(0, 10); };
  await page.getByLabel("Lessons start at").fill("17:30");
  await page.getByLabel("Weeks off").fill("next week");
  await page.getByRole("button", { name: "Plan the term" }).click();
  await expect(page.getByText("Write the days as 2026-12-01").first()).toBeVisible();
  await expect(page.getByLabel("Weeks off")).toHaveValue("next week");
  await page.getByLabel("Weeks off").fill(week(2));
  await page.getByRole("button", { name: "Plan the term" }).click();
  await expect(page.locator(".head")).toContainText(/days at 17:30/);
  await expect(page.locator(".offweek")).toHaveCount(1);
  await expectAccessible(page);
  const ics = await (await page.request.get("/term.ics")).text();
  expect(ics).toContain(`DTSTART:${week(1).replaceAll("-", "")}T173000\r\n`);
  expect(ics).not.toContain(`DTSTART:${week(2).replaceAll("-", "")}`);
});
