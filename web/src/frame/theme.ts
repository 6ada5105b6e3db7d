const KEY = "weft.theme";

export type Theme = "linen" | "lamplight";

export function currentTheme(): Theme {
  const chosen = localStorage.getItem(KEY);
  if (chosen === "linen" || chosen === "lamplight") return chosen;
  return matchMedia("(prefers-color-scheme: dark)").matches ? "lamplight" : "linen";
}

export function startTheme() {
  document.documentElement.dataset.theme = currentTheme();
}

export function chooseTheme(theme: Theme) {
  localStorage.setItem(KEY, theme);
  document.documentElement.dataset.theme = theme;
}
