/** Stands where the pages fetch their chart library, which needs a canvas: what is drawn is written down. */
export const drawn: { data: { name?: string }[] }[] = [];

export default {
  react: (box: HTMLElement, data: { name?: string }[]): HTMLElement => {
    drawn.push({ data });
    return Object.assign(box, { on: () => box, removeAllListeners: () => box });
  },
  purge: (): void => undefined,
  Plots: { resize: (): void => undefined },
};
