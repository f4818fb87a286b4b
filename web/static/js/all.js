// What a selector finds, as a list.
export const all = (selector, from = document) => Array.from(from.querySelectorAll(selector));
