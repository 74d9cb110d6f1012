import { createVuetify } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'

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

/** Paper and ink. Colours of verdicts are custom properties in styles.css, for both modes. */
export const vuetify = createVuetify({
  icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
  theme: {
    cspNonce: nonce,
    defaultTheme: initialTheme(),
    themes: {
      light: {
        dark: false,
        colors: {
          background: '#F6F4EE',
          surface: '#FBFAF6',
          'on-background': '#1D2630',
          'on-surface': '#1D2630',
          primary: '#0B6E6E',
          'on-primary': '#FFFFFF',
          secondary: '#4A4438',
          error: '#A8321F',
          warning: '#8A5800',
          success: '#22644A',
          info: '#0B6E6E',
        },
      },
      dark: {
        dark: true,
        colors: {
          background: '#151A20',
          surface: '#1A2028',
          'on-background': '#E8E4DA',
          'on-surface': '#E8E4DA',
          primary: '#5FBFBB',
          'on-primary': '#10161B',
          secondary: '#B9B3A4',
          error: '#F08A76',
          warning: '#E0A33E',
          success: '#6FC39B',
          info: '#5FBFBB',
        },
      },
    },
  },
  defaults: {
    global: { ripple: false, elevation: 0, rounded: 0 },
    VBtn: { variant: 'outlined', density: 'compact', height: 28, class: 'hp-button' },
    VTextField: { density: 'compact', variant: 'outlined', hideDetails: 'auto' },
    VTextarea: { density: 'compact', variant: 'outlined', hideDetails: 'auto' },
    VSelect: { density: 'compact', variant: 'outlined', hideDetails: 'auto' },
    VCheckbox: { density: 'compact', hideDetails: 'auto' },
    VDialog: { maxWidth: 760, scrollable: true, transition: false },
    VMenu: { transition: false },
    VTooltip: { transition: false, openDelay: 250 },
    VProgressLinear: { height: 4, color: 'primary', rounded: false },
    VTabs: { density: 'compact', height: 34, sliderTransition: 'fade' },
    VAlert: { density: 'compact', variant: 'outlined' },
  },
})
