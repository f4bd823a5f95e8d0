/** The tokens of both themes: warm paper and deep ink, sea-green for action, amber for wait, brick for stop and losses. */
export const TOKENS = {
  light: {
    ground: '#f6f2e9',
    surface: '#fcf9f2',
    sunken: '#ece6d9',
    line: '#d5cdbd',
    ink: '#1d2a2e',
    muted: '#56646a',
    green: '#0f6b5c',
    greenSoft: '#cfe0d8',
    amber: '#8f5b00',
    brick: '#a23b2a',
    neutral: '#7d8a8c',
    neutralSoft: '#dcd9cf',
  },
  dark: {
    ground: '#10191c',
    surface: '#182327',
    sunken: '#0b1214',
    line: '#304045',
    ink: '#e9ede8',
    muted: '#a3b1b3',
    green: '#5cc4ae',
    greenSoft: '#1f4a44',
    amber: '#e5a73a',
    brick: '#f08a76',
    neutral: '#8c9b9d',
    neutralSoft: '#2a383c',
  },
} as const;
export type Tokens = { [K in keyof (typeof TOKENS)['light']]: string };
