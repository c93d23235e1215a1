/** Nokta's own theme on Vuetify: paper, wood, ink and one warm accent. */
import 'vuetify/styles';
import { createVuetify } from 'vuetify';
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg';

/** Labels and hints are quieter than text, but stay well above the contrast that small type needs. */
const variables = { 'high-emphasis-opacity': 1, 'medium-emphasis-opacity': 0.86 };

const light = {
  dark: false,
  variables,
  colors: {
    background: '#efe7d8',
    surface: '#fbf7ee',
    'surface-variant': '#e4d9c5',
    'on-surface-variant': '#3b2f25',
    primary: '#8f4316',
    secondary: '#5a4a3a',
    error: '#9c1c1c',
    info: '#2f5d73',
    success: '#3f6232',
    warning: '#8a5a00',
    'on-background': '#1d1a16',
    'on-surface': '#1d1a16',
    'on-primary': '#ffffff',
  },
};
const dark = {
  dark: true,
  variables,
  colors: {
    background: '#1b1713',
    surface: '#26201a',
    'surface-variant': '#3a3128',
    'on-surface-variant': '#e8dcc6',
    primary: '#eda566',
    secondary: '#cdbfa6',
    error: '#ff9a8f',
    info: '#8fc6de',
    success: '#a6cf93',
    warning: '#f0c267',
    'on-background': '#f2e9d9',
    'on-surface': '#f2e9d9',
    'on-primary': '#2a1403',
  },
};

export const vuetify = createVuetify({
  icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
  theme: { defaultTheme: 'light', themes: { light, dark } },
  defaults: {
    VBtn: { variant: 'text', rounded: 'lg', density: 'comfortable', ripple: false },
    VCard: { rounded: 'lg', elevation: 0 },
    VTextField: { variant: 'outlined', density: 'compact', hideDetails: 'auto' },
    VTextarea: { variant: 'outlined', hideDetails: 'auto' },
    VSelect: { variant: 'outlined', density: 'compact', hideDetails: 'auto' },
    VSwitch: { density: 'compact', hideDetails: true, color: 'primary', inset: true },
    VTooltip: { openDelay: 400 },
  },
});
