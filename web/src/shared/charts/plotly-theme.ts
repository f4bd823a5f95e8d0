import type { Layout, LayoutAxis } from 'plotly.js';
import type { Tokens } from './theme.js';

/** A colour with an opacity, for bands. */
export function withOpacity(hex: string, opacity: number): string {
  const [red, green, blue] = [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16));
  return `rgba(${red},${green},${blue},${opacity})`;
}

function axis(tokens: Tokens): Partial<LayoutAxis> {
  return {
    gridcolor: tokens.line,
    linecolor: tokens.neutral,
    zerolinecolor: tokens.line,
    tickcolor: tokens.neutral,
    tickfont: { size: 13, color: tokens.muted },
    title: { font: { size: 13, color: tokens.muted } },
    exponentformat: 'none',
    automargin: true,
    fixedrange: true,
  };
}

/** The one layout of every chart, with a chart's own on top. */
export function plotlyLayout(tokens: Tokens, own: Partial<Layout>, height: number): Partial<Layout> {
  const layout: Partial<Layout> = {
    height,
    autosize: true,
    margin: { l: 52, r: 12, t: 8, b: 38 },
    paper_bgcolor: 'rgba(0,0,0,0)',
    plot_bgcolor: 'rgba(0,0,0,0)',
    font: { family: "'Atkinson Hyperlegible Next Variable', sans-serif", size: 13, color: tokens.ink },
    showlegend: false,
    hovermode: 'x unified',
    hoverlabel: { bgcolor: tokens.surface, bordercolor: tokens.line, font: { size: 13, color: tokens.ink } },
    ...own,
  };
  const axes = new Set(['xaxis', 'yaxis', ...Object.keys(own).filter((name) => /^[xy]axis\d*$/.test(name))]) as Set<'xaxis' | 'yaxis'>;
  for (const name of axes) {
    const mine = own[name] as Partial<LayoutAxis> | undefined;
    const base = axis(tokens);
    layout[name] = { ...base, ...mine, title: { ...base.title, ...(mine?.title as object) } } as LayoutAxis;
  }
  return layout;
}
