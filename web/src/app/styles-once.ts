import Base from '@primevue/core/base';
import Ripple from 'primevue/ripple';

/**
 * Has the package's components leave their styles in the page once they are there. With every part that comes it forgets which it has written, for
 * the sake of a theme that may change, writes a sheet anew, and the browser matches the whole page against it; ours is dark or light by an attribute.
 * The ripple, which is never shown, does the same with every button that is drawn again, and the focus trap, which has no style, when it first comes.
 */
export function writeStylesOnce(): void {
  Base.clearLoadedStyleNames = () => undefined;
  Base.setLoadedStyleName('focustrap-directive');
  for (const hook of Object.keys(Ripple)) if (hook !== 'extend') Reflect.deleteProperty(Ripple, hook);
}
