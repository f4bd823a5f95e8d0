/** A text that somebody wrote, for a chart: Plotly reads a little markup in texts, and names are shown as they are. */
export function plotText(text: string): string {
  return text.replaceAll('&', '&amp;').replaceAll('<', '&lt;');
}
