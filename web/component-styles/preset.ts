import { definePreset } from '@primeuix/themes';
import base from '@primeuix/themes/aura/base';
import badge from '@primeuix/themes/aura/badge';
import button from '@primeuix/themes/aura/button';
import checkbox from '@primeuix/themes/aura/checkbox';
import chip from '@primeuix/themes/aura/chip';
import datepicker from '@primeuix/themes/aura/datepicker';
import dialog from '@primeuix/themes/aura/dialog';
import iconfield from '@primeuix/themes/aura/iconfield';
import inputtext from '@primeuix/themes/aura/inputtext';
import menu from '@primeuix/themes/aura/menu';
import multiselect from '@primeuix/themes/aura/multiselect';
import popover from '@primeuix/themes/aura/popover';
import progressbar from '@primeuix/themes/aura/progressbar';
import radiobutton from '@primeuix/themes/aura/radiobutton';
import select from '@primeuix/themes/aura/select';
import selectbutton from '@primeuix/themes/aura/selectbutton';
import textarea from '@primeuix/themes/aura/textarea';
import togglebutton from '@primeuix/themes/aura/togglebutton';
import virtualscroller from '@primeuix/themes/aura/virtualscroller';
import { TOKENS } from '../src/shared/charts/theme.js';

type ThemeTokens = (typeof TOKENS)[keyof typeof TOKENS];
const STEPS = [0, 50, 100, 200, 300, 400, 500, 600, 700, 800, 900, 950];

/** The components' own scale of greys, warm like the paper: always from the lightest to the darkest of the theme. */
function surfaces(tokens: ThemeTokens): Record<number, string> {
  const { surface, ground, sunken, line, neutralSoft, neutral, muted, ink } = tokens;
  const scale =
    tokens === TOKENS.light
      ? [surface, ground, sunken, line, neutralSoft, neutral, neutral, muted, muted, ink, ink, ink]
      : [ink, ink, ink, muted, muted, neutral, neutral, neutralSoft, line, neutralSoft, surface, ground];
  return Object.fromEntries(STEPS.map((step, i) => [step, scale[i]!]));
}

const scheme = (tokens: ThemeTokens) => ({
  surface: surfaces(tokens),
  primary: { color: tokens.green, contrastColor: tokens.ground, hoverColor: tokens.green, activeColor: tokens.green },
  highlight: { background: tokens.greenSoft, focusBackground: tokens.greenSoft, color: tokens.ink, focusColor: tokens.ink },
  text: { color: tokens.ink, hoverColor: tokens.ink, mutedColor: tokens.muted, hoverMutedColor: tokens.ink },
  content: {
    background: tokens.surface,
    hoverBackground: tokens.sunken,
    borderColor: tokens.line,
    color: tokens.ink,
    hoverColor: tokens.ink,
  },
  formField: {
    background: tokens.surface,
    borderColor: tokens.neutral,
    hoverBorderColor: tokens.ink,
    focusBorderColor: tokens.green,
    color: tokens.ink,
    placeholderColor: tokens.muted,
  },
  overlay: {
    select: { background: tokens.surface, borderColor: tokens.line, color: tokens.ink },
    popover: { background: tokens.surface, borderColor: tokens.line, color: tokens.ink },
    modal: { background: tokens.surface, borderColor: tokens.line, color: tokens.ink },
  },
});

const outlined = (tokens: ThemeTokens) => ({
  outlined: {
    primary: { borderColor: tokens.green, color: tokens.green, hoverBackground: tokens.greenSoft, activeBackground: tokens.greenSoft },
  },
  text: { primary: { color: tokens.green, hoverBackground: tokens.greenSoft, activeBackground: tokens.greenSoft } },
});

/** The measures of the components that Gezeit uses, and of no others. */
const COMPONENT_TOKENS = {
  badge,
  button,
  checkbox,
  chip,
  datepicker,
  dialog,
  iconfield,
  inputtext,
  menu,
  multiselect,
  popover,
  progressbar,
  radiobutton,
  select,
  selectbutton,
  textarea,
  togglebutton,
  virtualscroller,
};

/** Gezeit's own look for the components: paper, ink and sea-green, square-shouldered and compact. */
export const GezeitPreset = definePreset(
  { ...base, components: COMPONENT_TOKENS },
  {
    primitive: { borderRadius: { none: '0', xs: '2px', sm: '2px', md: '3px', lg: '4px', xl: '5px' } },
    semantic: {
      transitionDuration: '0s',
      focusRing: { width: '2px', style: 'solid', color: '{primary.color}', offset: '2px' },
      formField: { paddingX: '0.6rem', paddingY: '0.35rem', borderRadius: '{border.radius.md}' },
      colorScheme: { light: scheme(TOKENS.light), dark: scheme(TOKENS.dark) },
    },
    components: {
      button: { colorScheme: { light: outlined(TOKENS.light), dark: outlined(TOKENS.dark) } },
    },
  },
);
