import { test, expect } from "./arplin.mjs";

// The cards below come when they are reached, in the order of the list; what they play is heard.
test("the next patterns come as they are reached", async ({ teacher: page }) => {
  await page.goto("/patterns");
  const cards = page.locator(".cards article");
  await expect(cards).toHaveCount(12);
  const all = Number((await page.locator("h2.sub").first().textContent()).match(/\d+/)[0]);
  for (let n = 12; n < all; n = await cards.count()) {
    await cards.last().scrollIntoViewIfNeeded();
    await page.mouse.wheel(0, 2000);
    await expect.poll(() => cards.count()).toBeGreaterThan(n);
  }
  await expect(cards).toHaveCount(all);
  const names = await cards.locator("h3").allTextContents();
  expect(new Set(names).size).toBe(all);
  await expect(page.locator(".cards p[hx-get]")).toHaveCount(0);
});
