import { definePreset } from '@primeuix/themes'
import Aura from '@primeuix/themes/aura'

/** From the paper to the ink. */
const steps = ['paper', 'board', 'tint', 'tint-strong', 'rule', 'rule-strong', 'ink-soft', 'ink-soft', 'ink', 'ink', 'ink', 'ink']

/** PrimeVue dressed in the ledger's colors. Everything points at the tokens of tokens.css, so dark comes free. */
export const ledgerPreset = definePreset(Aura, {
  primitive: {
    borderRadius: { none: '0', xs: '2px', sm: '3px', md: '4px', lg: '4px', xl: '6px' },
  },
  semantic: {
    transitionDuration: '0.1s',
    focusRing: { width: '2px', style: 'solid', color: 'var(--slate)', offset: '1px', shadow: 'none' },
    primary: {
      50: 'var(--tint)',
      100: 'var(--tint-strong)',
      200: 'var(--rule)',
      300: 'var(--rule-strong)',
      400: 'var(--pine)',
      500: 'var(--pine)',
      600: 'var(--pine-deep)',
      700: 'var(--pine-deep)',
      800: 'var(--pine-deep)',
      900: 'var(--pine-deep)',
      950: 'var(--pine-deep)',
    },
    formField: { paddingX: '0.65rem', paddingY: '0.42rem', sm: { fontSize: '1rem', paddingX: '0.5rem', paddingY: '0.25rem' } },
    colorScheme: {
      light: scheme(steps),
      // Dark themes count their surfaces from the other end.
      dark: scheme([...steps].reverse()),
    },
  },
  components: {
    button: {
      root: {
        paddingX: '0.85rem',
        paddingY: '0.42rem',
        label: { fontWeight: '600' },
        sm: { fontSize: '0.94rem', paddingX: '0.6rem', paddingY: '0.24rem' },
      },
      colorScheme: { light: buttons(), dark: buttons() },
    },
    message: {
      colorScheme: { light: messages(), dark: messages() },
    },
  },
})

function scheme(surfaces: string[]) {
  const numbers = [0, 50, 100, 200, 300, 400, 500, 600, 700, 800, 900, 950]
  return {
    surface: Object.fromEntries(numbers.map((n, i) => [n, `var(--${surfaces[i]})`])),
    primary: {
      color: 'var(--pine)',
      contrastColor: 'var(--on-pine)',
      hoverColor: 'var(--pine-deep)',
      activeColor: 'var(--pine-deep)',
    },
    highlight: {
      background: 'var(--tint-strong)',
      focusBackground: 'var(--tint-strong)',
      color: 'var(--ink)',
      focusColor: 'var(--ink)',
    },
    text: { color: 'var(--ink)', hoverColor: 'var(--ink)', mutedColor: 'var(--ink-soft)', hoverMutedColor: 'var(--ink-soft)' },
    content: {
      background: 'var(--paper)',
      hoverBackground: 'var(--tint)',
      borderColor: 'var(--rule)',
      color: 'var(--ink)',
      hoverColor: 'var(--ink)',
    },
    overlay: {
      select: { background: 'var(--paper)', borderColor: 'var(--rule)', color: 'var(--ink)' },
      popover: { background: 'var(--paper)', borderColor: 'var(--rule)', color: 'var(--ink)' },
      modal: { background: 'var(--paper)', borderColor: 'var(--rule)', color: 'var(--ink)' },
    },
    formField: {
      background: 'var(--paper)',
      disabledBackground: 'var(--board)',
      disabledColor: 'var(--ink-soft)',
      borderColor: 'var(--rule-strong)',
      hoverBorderColor: 'var(--ink-soft)',
      focusBorderColor: 'var(--slate)',
      color: 'var(--ink)',
      placeholderColor: 'var(--ink-soft)',
      iconColor: 'var(--ink-soft)',
      shadow: 'none',
    },
  }
}

function buttons() {
  const brick = 'var(--brick)'
  const paper = 'var(--paper)'
  return {
    root: {
      danger: {
        background: brick,
        hoverBackground: brick,
        activeBackground: brick,
        borderColor: brick,
        hoverBorderColor: brick,
        activeBorderColor: brick,
        color: paper,
        hoverColor: paper,
        activeColor: paper,
      },
    },
    outlined: {
      secondary: {
        borderColor: 'var(--rule-strong)',
        color: 'var(--ink)',
        hoverBackground: 'var(--tint)',
        activeBackground: 'var(--tint-strong)',
      },
    },
    text: { secondary: { color: 'var(--ink)', hoverBackground: 'var(--tint)', activeBackground: 'var(--tint-strong)' } },
  }
}

function messages() {
  const dressed = (background: string, color: string) => ({ background, borderColor: color, color, shadow: 'none' })
  return {
    success: dressed('var(--tint)', 'var(--pine)'),
    info: dressed('var(--tint)', 'var(--slate)'),
    warn: dressed('var(--resin-tint)', 'var(--resin)'),
    error: dressed('var(--brick-tint)', 'var(--brick)'),
  }
}
