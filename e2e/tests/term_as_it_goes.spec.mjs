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
  await page.getByText("Paste a list of students").click();
  await page.locator("#list").fill(list);
  await page.getByRole("button", { name: "Add them all" }).click();
  const look = page.getByRole("alert", { name: "How the list was read" });
  for (const says of ["Line 7, “Otis, bass”: “bass” is no instrument that Arplin has", "Line 12, “Otto”: there are two called Otto", "Line 1, ", "Line 4, “Ben Hill - tenor, 9 years old”: left out: an age", "“small hands”", "a phone number", "a mail address", "Line 14, "]) await expect(look).toContainText(says);
  await expect(look).toContainText("10 students: Zoë, Ukulele, high g; Ben, Ukulele, high g; Ada, Guitar");
  await expectAccessible(page);
  await expect(page.locator("#list")).toHaveValue(list);
  await page.getByRole("button", { name: "Add these 10" }).click();
  await expect(page.getByRole("status")).toContainText("10 students more");
  await expect(page.getByRole("row", { name: /^Nell/ })).toContainText("left-handed");
  await expect(page.getByRole("row", { name: /^Otis/ })).toHaveCount(0);
});
