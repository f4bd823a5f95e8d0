/**
 * Colours of setups, in a fixed order, from Paul Tol's colour-blind-safe qualitative schemes (bright, muted, light, pale, vibrant and
 * the discrete rainbow): those that stay clear of the three state colours, one shade a theme. The letter and the line pattern always
 * say the same.
 */
export const SETUP_COLOURS = {
  light: ['#4477AA', '#AA3377', '#332288', '#555555', '#EE3377'],
  dark: ['#77AADD', '#BA8DB4', '#BBCCEE', '#DDDDDD', '#EE3377'],
} as const;

/** Line patterns of the first five setups; further setups take the next pattern with a colour again. */
export const SETUP_DASHES = ['solid', 'dash', 'dot', 'dashdot', 'longdash'] as const;
export type Dash = (typeof SETUP_DASHES)[number];
export type Theme = keyof typeof SETUP_COLOURS;

/** How a setup is drawn everywhere, by its place among the programme's setups. */
export function setupStyle(index: number, theme: Theme): { colour: string; dash: Dash } {
  const colours = SETUP_COLOURS[theme];
  const round = Math.floor(index / colours.length);
  return { colour: colours[index % colours.length]!, dash: SETUP_DASHES[(index + round) % SETUP_DASHES.length]! };
}

/** The SVG dash array of a pattern. */
export function dashArray(dash: Dash): string | undefined {
  return { solid: undefined, dash: '7 4', dot: '2 3', dashdot: '7 3 2 3', longdash: '12 4' }[dash];
}
