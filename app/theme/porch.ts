import { definePreset } from '@primeuix/themes'
import { AURA } from './aura'

const porch = {
  50: '#EDF6F6',
  100: '#CFE5E3',
  200: '#A9D0CF',
  300: '#7CC4C9',
  400: '#3F959D',
  500: '#22747E',
  600: '#17616B',
  700: '#124E57',
  800: '#0E3E45',
  900: '#0A2E33',
  950: '#061D21',
}
const board = {
  0: '#FFFFFF',
  50: '#F3F8F7',
  100: '#E6F0EE',
  200: '#D5E2E0',
  300: '#B9CCCA',
  400: '#8AA3A3',
  500: '#64807F',
  600: '#4F6468',
  700: '#344B4F',
  800: '#20363A',
  900: '#16292D',
  950: '#0C1A1D',
}
const dusk = {
  0: '#FFFFFF',
  50: '#E4EFED',
  100: '#CBDAD7',
  200: '#B0C4C1',
  300: '#93ABA8',
  400: '#74908D',
  500: '#557270',
  600: '#3C5654',
  700: '#2B4241',
  800: '#203534',
  900: '#182A29',
  950: '#12211F',
}

/** The porch in PrimeVue's design tokens: square-ish boards, deep blue, sun for focus. */
export default {
  preset: definePreset(AURA, {
    primitive: { borderRadius: { none: '0', xs: '2px', sm: '4px', md: '7px', lg: '9px', xl: '12px' } },
    semantic: {
      primary: porch,
      focusRing: { width: '2px', style: 'solid', color: '{primary.color}', offset: '2px' },
      formField: { paddingX: '0.6rem', paddingY: '0.42rem', borderRadius: '{border.radius.md}' },
      colorScheme: {
        light: {
          surface: board,
          primary: {
            color: '{primary.600}',
            contrastColor: '#F3F8F7',
            hoverColor: '{primary.700}',
            activeColor: '{primary.800}',
          },
          text: { color: '{surface.900}', mutedColor: '{surface.600}' },
          formField: { placeholderColor: '{surface.600}' },
        },
        dark: {
          surface: dusk,
          primary: {
            color: '{primary.300}',
            contrastColor: '#0C1A1D',
            hoverColor: '{primary.200}',
            activeColor: '{primary.100}',
          },
          text: { color: '{surface.50}', mutedColor: '{surface.300}' },
        },
      },
    },
  }),
  options: { darkModeSelector: '[data-theme="dusk"]', prefix: 'p' },
}
