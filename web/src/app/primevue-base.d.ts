/** What the package remembers of the styles it has written; it has no types of its own. */
declare module '@primevue/core/base' {
  const base: { clearLoadedStyleNames: () => void; setLoadedStyleName: (name: string) => void };
  export default base;
}
