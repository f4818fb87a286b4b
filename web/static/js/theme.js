// A phone's page is as light or dark as the phone is.
const dark = matchMedia("(prefers-color-scheme: dark)");
const follow = () => { document.documentElement.dataset.bsTheme = dark.matches ? "dark" : "light"; };
follow();
dark.addEventListener("change", follow);
