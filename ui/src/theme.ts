import { definePreset } from '@primeuix/themes'
import Aura from '@primeuix/themes/aura'

/** Paper and snow, bark browns, spruce green for what leads. */
export const winter = definePreset(Aura, {
  semantic: {
    primary: {
      50: '#eef5f1', 100: '#d5e6dd', 200: '#aecdbd', 300: '#84b19b', 400: '#5c927a', 500: '#3f755d',
      600: '#2f5d4a', 700: '#264b3c', 800: '#1d3a2f', 900: '#152a22', 950: '#0c1914',
    },
    colorScheme: {
      light: {
        surface: {
          0: '#fffdf8', 50: '#f8f5ee', 100: '#efebe2', 200: '#e0dace', 300: '#cbc3b4', 400: '#a79d8c',
          500: '#83796a', 600: '#655c50', 700: '#4c453c', 800: '#332e28', 900: '#211d19', 950: '#120f0d',
        },
        primary: { color: '{primary.600}', hoverColor: '{primary.700}', activeColor: '{primary.800}' },
      },
      dark: {
        surface: {
          0: '#f4f1ea', 50: '#e6e2d9', 100: '#cdc8bd', 200: '#aba598', 300: '#8a8477', 400: '#6b665b',
          500: '#524e45', 600: '#403c35', 700: '#312e29', 800: '#25231f', 900: '#1a1916', 950: '#11100e',
        },
        primary: { color: '{primary.300}', hoverColor: '{primary.200}', activeColor: '{primary.100}' },
      },
    },
  },
})
