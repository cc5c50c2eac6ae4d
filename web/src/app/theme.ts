import { definePreset } from '@primeuix/themes';
import Aura from '@primeuix/themes/aura';

/** The component library in Kalvet's colours: bronze for what can be pressed, plaster and paper for what holds it. */
export const KalvetPreset = definePreset(Aura, {
  components: {
    // What is not chosen must be read too: the kit's grey on grey is too faint.
    togglebutton: {
      colorScheme: { light: { root: { color: '{surface.700}', hoverColor: '{surface.900}' } } },
    },
    button: {
      colorScheme: {
        light: {
          outlined: {
            secondary: {
              color: '{surface.700}',
              borderColor: '{surface.400}',
              hoverBackground: '{surface.100}',
            },
          },
          text: { secondary: { color: '{surface.700}', hoverBackground: '{surface.100}' } },
        },
      },
    },
  },
  semantic: {
    primary: {
      50: '#fbf4df',
      100: '#f6e6b8',
      200: '#efd384',
      300: '#e6be51',
      400: '#dcac2e',
      500: '#d7a11b',
      600: '#a97c12',
      700: '#7d5b0d',
      800: '#5a4109',
      900: '#3d2c06',
      950: '#261b03',
    },
    focusRing: { width: '2px', style: 'solid', color: '#1e5f8c', offset: '1px' },
    formField: { paddingX: '0.6rem', paddingY: '0.42rem', borderRadius: '5px' },
    colorScheme: {
      light: {
        surface: {
          0: '#fdfcf9',
          50: '#f9f6f0',
          100: '#f5f2eb',
          200: '#ebe5d9',
          300: '#ddd9d0',
          400: '#b5ad9f',
          500: '#7d766b',
          600: '#655f56',
          700: '#4a453e',
          800: '#35312b',
          900: '#24211d',
          950: '#171512',
        },
        primary: {
          color: '#d7a11b',
          contrastColor: '#24211d',
          hoverColor: '#c69315',
          activeColor: '#b58511',
        },
        text: { color: '#24211d', mutedColor: '#655f56' },
        formField: { placeholderColor: '{surface.600}' },
      },
    },
  },
});
