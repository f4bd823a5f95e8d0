import BaseComponent from '@primevue/core/basecomponent';
import BaseDirective from '@primevue/core/basedirective';
import Ripple from 'primevue/ripple';
import VirtualScrollerStyle from 'primevue/virtualscroller/style';

const nothing = () => undefined;
/** Where the package's components write styles into the page. */
const WRITERS: [object, string[]][] = [
  [BaseComponent.methods, ['_loadStyles', '_loadCoreStyles', '_themeChangeListener']],
  [BaseDirective, ['_loadStyles']],
  [VirtualScrollerStyle, ['loadCSS']],
];
const AS_IT_WAS = WRITERS.map(([writer]) => ({ ...writer }));

/**
 * Has the package's components write no styles into the page: they stand in the sheet that comes with it (`web/component-styles`). Otherwise each made
 * its own while it was drawn, with every part that came anew, for the sake of a theme that may change; ours is dark or light by an attribute.
 * The ripple, which is never shown, looks for its styles in a way of its own with every button that is drawn again.
 * Returns how to have components write their own.
 */
export function takeStylesFromSheet(): () => void {
  for (const [writer, names] of WRITERS) for (const name of names) Reflect.set(writer, name, nothing);
  for (const hook of Object.keys(Ripple)) if (hook !== 'extend') Reflect.deleteProperty(Ripple, hook);
  return () => {
    for (const [i, [writer, names]] of WRITERS.entries())
      for (const name of names) Reflect.set(writer, name, Reflect.get(AS_IT_WAS[i]!, name));
  };
}
