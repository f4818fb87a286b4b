// Small conveniences for plain forms: choices that show at once, and printing.
document.addEventListener("change", (event) => {
  const form = event.target.closest("form[data-autosubmit]");
  if (form) form.requestSubmit();
});
document.addEventListener("click", (event) => {
  if (event.target.closest("[data-print]")) window.print();
});
document.querySelectorAll("[data-autohide]").forEach((el) => { el.hidden = true; });
