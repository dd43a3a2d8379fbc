/** Which theme was chosen: kept in the browser, set before the first paint. */

export type Theme = 'day' | 'night';
const KEY = 'dialtune-theme';

export const THEME_SCRIPT = `try{const t=localStorage.getItem('${KEY}');if(t)document.documentElement.dataset.theme=t}catch{}`;

/** The theme on screen now. */
export function themeNow(): Theme {
  const chosen = document.documentElement.dataset.theme;
  if (chosen === 'day' || chosen === 'night') return chosen;
  return window.matchMedia('(prefers-color-scheme: dark)').matches ? 'night' : 'day';
}

export function chooseTheme(theme: Theme): void {
  document.documentElement.dataset.theme = theme;
  try {
    localStorage.setItem(KEY, theme);
  } catch {
    // Private windows may refuse; the choice then lasts as long as the page.
  }
}
