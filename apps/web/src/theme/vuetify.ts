// Vuetify with our own tokens: warm paper and ink, one signal colour for what is live or was read.
import { createVuetify } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'
import 'vuetify/styles'

const light = {
  background: '#F7F4EC',
  surface: '#FFFDF8',
  'on-background': '#1C2321',
  'on-surface': '#1C2321',
  primary: '#24524A',
  'on-primary': '#FFFDF8',
  secondary: '#55605B',
  error: '#9B1C31',
  warning: '#8A5A00',
  ink: '#1C2321',
  second: '#55605B',
  hairline: '#D9D3C4',
  action: '#24524A',
  signal: '#B4410E',
  stop: '#9B1C31',
  look: '#8A5A00',
  sheet: '#FFFDF8',
  ground: '#F7F4EC',
}

const dark: typeof light = {
  background: '#14201D',
  surface: '#1B2925',
  'on-background': '#E9E5D8',
  'on-surface': '#E9E5D8',
  primary: '#7FC4B1',
  'on-primary': '#14201D',
  secondary: '#A9B5AE',
  error: '#FF8A97',
  warning: '#E7B75A',
  ink: '#E9E5D8',
  second: '#A9B5AE',
  hairline: '#33443E',
  action: '#7FC4B1',
  signal: '#FF9E5E',
  stop: '#FF8A97',
  look: '#E7B75A',
  sheet: '#1B2925',
  ground: '#14201D',
}

export const vuetify = createVuetify({
  icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
  theme: {
    defaultTheme: 'light',
    themes: { light: { dark: false, colors: light }, dark: { dark: true, colors: dark } },
  },
  defaults: {
    VBtn: { variant: 'outlined', rounded: 'sm', elevation: 0, minHeight: 44 },
    VTextField: { variant: 'plain', density: 'compact', hideDetails: true },
    VSelect: { variant: 'plain', density: 'compact', hideDetails: true },
    VAutocomplete: { variant: 'plain', density: 'compact', hideDetails: true },
    VTable: { density: 'compact' },
    VTabs: { color: 'primary', height: 48 },
    VDialog: { maxWidth: 640 },
    VProgressLinear: { color: 'primary', height: 6 },
  },
})
