declare module 'plotly.js-cartesian-dist-min' {
  export * from 'plotly.js';
  import type Plotly from 'plotly.js';
  const plotly: typeof Plotly;
  export default plotly;
}
declare module '@fontsource-variable/atkinson-hyperlegible-next';
declare module '*.css';
