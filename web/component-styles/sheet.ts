import BaseStyle from '@primevue/core/base/style';
import icon from '@primevue/icons/baseicon/style';
import { css as written, Theme } from '@primeuix/themes';
import badge from 'primevue/badge/style';
import button from 'primevue/button/style';
import checkbox from 'primevue/checkbox/style';
import chip from 'primevue/chip/style';
import datepicker from 'primevue/datepicker/style';
import dialog from 'primevue/dialog/style';
import iconfield from 'primevue/iconfield/style';
import inputicon from 'primevue/inputicon/style';
import inputtext from 'primevue/inputtext/style';
import menu from 'primevue/menu/style';
import multiselect from 'primevue/multiselect/style';
import popover from 'primevue/popover/style';
import progressbar from 'primevue/progressbar/style';
import radiobutton from 'primevue/radiobutton/style';
import select from 'primevue/select/style';
import selectbutton from 'primevue/selectbutton/style';
import textarea from 'primevue/textarea/style';
import togglebutton from 'primevue/togglebutton/style';
import virtualscroller from 'primevue/virtualscroller/style';
import { GezeitPreset } from './preset.js';

/** The components that Gezeit uses, and those that they are made of. The package has no types for its styles. */
const STYLES = [
  icon,
  button,
  badge,
  inputtext,
  textarea,
  checkbox,
  radiobutton,
  togglebutton,
  selectbutton,
  select,
  multiselect,
  chip,
  iconfield,
  inputicon,
  virtualscroller,
  datepicker,
  dialog,
  popover,
  menu,
  progressbar,
] as unknown as PackageStyle[];

/** Light or dark by an attribute; below what the pages say themselves. */
export const THEME = {
  preset: GezeitPreset,
  options: { darkModeSelector: '[data-theme=dark]', cssLayer: { name: 'primevue' } },
};

type Text = string | ((params: unknown) => string);
interface PackageStyle {
  name: string;
  css?: Text;
  style?: Text;
  load: (style: Text | undefined, options?: object, transform?: (css: string) => string) => unknown;
  loadStyle: (options: { name: string }, style?: Text) => unknown;
  getCommonTheme: () => Record<'primitive' | 'semantic' | 'global', { css?: string } | undefined> & { style?: Text };
  getComponentTheme: () => { css?: string; style?: Text };
}

/**
 * What the package's components would write into a page, one style element after the other, while it is drawn: all of it once, as one sheet. They are
 * asked in the package's own words, with a place to write to that is no page.
 */
export function componentStyles(): string {
  Theme.setTheme(THEME);
  const parts: string[] = [];
  const onto = (style: PackageStyle): PackageStyle => ({
    ...style,
    load: (text, _options, transform = (css) => css) => void parts.push(transform(written`${text as string}` ?? '') ?? ''),
  });
  const base = onto(BaseStyle as unknown as PackageStyle);
  base.load(base.css);
  const { primitive, semantic, global, style } = base.getCommonTheme();
  for (const variables of [primitive, semantic, global]) base.load(variables?.css);
  base.loadStyle({ name: 'global-style' }, style);
  for (const component of STYLES.map(onto)) {
    component.load(component.css);
    const theme = component.getComponentTheme();
    component.load(theme.css);
    component.loadStyle({ name: `${component.name}-style` }, theme.style);
  }
  return parts.filter((part) => part.trim() !== '').join('\n');
}
