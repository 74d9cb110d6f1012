import { createVuetify } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'

/**
 * The palette, once: paper and ink, and a colour for each verdict. The styles use it as custom properties, which
 * styles.css names.
 */
const LIGHT = {
  ink: '#1D2630',
  quiet: '#5A5447',
  rule: '#D3CCBD',
  'rule-strong': '#1D2630',
  paper: '#F6F4EE',
  sheet: '#FBFAF6',
  accent: '#0B6E6E',
  'on-accent': '#FFFFFF',
  selected: '#DCE6E1',
  proven: '#256B4E',
  lapsed: '#8A5800',
  unproven: '#56616B',
  disproven: '#A8321F',
  exposed: '#6B3FA0',
  uncovered: '#1D2630',
  excluded: '#5A5447',
  unknown: '#4A4438',
  bar: '#4D9473',
  'bar-short': '#7C8690',
  hatch: '#B9553F',
  amber: '#F0C36A',
}
const DARK: typeof LIGHT = {
  ink: '#E8E4DA',
  quiet: '#ABA595',
  rule: '#333C47',
  'rule-strong': '#8D97A2',
  paper: '#151A20',
  sheet: '#1A2028',
  accent: '#5FBFBB',
  'on-accent': '#10161B',
  selected: '#22363A',
  proven: '#6FC39B',
  lapsed: '#E0A33E',
  unproven: '#A9B4BD',
  disproven: '#F08A76',
  exposed: '#C3A1F0',
  uncovered: '#E8E4DA',
  excluded: '#ABA595',
  unknown: '#CFC9BA',
  bar: '#4D9473',
  'bar-short': '#69737E',
  hatch: '#E07A64',
  amber: '#6B5320',
}

/** The frame's own names for it; the rest of the palette goes by its own, as {@code --v-theme-…} too. */
function colours(p: typeof LIGHT) {
  return {
    ...p,
    background: p.paper,
    surface: p.sheet,
    'on-background': p.ink,
    'on-surface': p.ink,
    primary: p.accent,
    'on-primary': p['on-accent'],
    secondary: p.unknown,
    error: p.disproven,
    warning: p.lapsed,
    success: p.proven,
    info: p.accent,
  }
}

const nonce = document.querySelector<HTMLMetaElement>('meta[name="csp-nonce"]')?.content

const STORED = 'hard-proof-theme'

/** What the person chose last, else what the system prefers. */
export function initialTheme(): 'light' | 'dark' {
  const stored = localStorage.getItem(STORED)
  if (stored === 'light' || stored === 'dark') return stored
  return window.matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light'
}

export function rememberTheme(name: 'light' | 'dark'): void {
  localStorage.setItem(STORED, name)
}

export const vuetify = createVuetify({
  icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
  theme: {
    cspNonce: nonce,
    defaultTheme: initialTheme(),
    themes: {
      light: { dark: false, colors: colours(LIGHT) },
      dark: { dark: true, colors: colours(DARK) },
    },
  },
  defaults: {
    global: { ripple: false, elevation: 0, rounded: 0 },
    VBtn: { variant: 'outlined', density: 'compact', height: 28, class: 'hp-button' },
    VTextField: { density: 'compact', variant: 'outlined', hideDetails: 'auto' },
    VTextarea: { density: 'compact', variant: 'outlined', hideDetails: 'auto' },
    VSelect: { density: 'compact', variant: 'outlined', hideDetails: 'auto' },
    VCombobox: { density: 'compact', variant: 'outlined', hideDetails: 'auto' },
    VCheckbox: { density: 'compact', hideDetails: 'auto' },
    VDialog: { maxWidth: 760, scrollable: true, transition: false },
    VMenu: { transition: false },
    VTooltip: { transition: false, openDelay: 250 },
    VProgressLinear: { height: 4, color: 'primary', rounded: false },
    VTabs: { density: 'compact', height: 34, sliderTransition: 'fade' },
    VAlert: { density: 'compact', variant: 'outlined' },
  },
})
