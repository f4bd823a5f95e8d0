import { defineStore } from 'pinia';
import { computed, ref, watchEffect } from 'vue';
import { TOKENS } from './theme.js';
import type { Theme } from './setup-colours.js';

const KEY = 'gezeit.theme';

/** Light or dark: as the machine asks until something is chosen. */
export const useTheme = defineStore('theme', () => {
  const asked = window.matchMedia('(prefers-color-scheme: dark)');
  const stored = localStorage.getItem(KEY);
  const theme = ref<Theme>(stored === 'light' || stored === 'dark' ? stored : asked.matches ? 'dark' : 'light');
  const tokens = computed(() => TOKENS[theme.value]);
  watchEffect(() => {
    const root = document.documentElement;
    root.dataset['theme'] = theme.value;
    for (const [name, value] of Object.entries(tokens.value))
      root.style.setProperty(`--${name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`)}`, value);
  });
  function toggle(): void {
    theme.value = theme.value === 'light' ? 'dark' : 'light';
    localStorage.setItem(KEY, theme.value);
  }
  return { theme, tokens, toggle };
});
