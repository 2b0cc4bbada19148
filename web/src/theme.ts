import { createSystem, defaultBaseConfig, defineConfig } from '@chakra-ui/react';
import {
  animationStyles,
  breakpoints,
  buttonRecipe,
  cssVarsPrefix,
  cssVarsRoot,
  dialogSlotRecipe,
  globalCss,
  headingRecipe,
  keyframes,
  layerStyles,
  semanticTokens,
  textStyles,
  tokens,
} from '@chakra-ui/react/theme';

/** One colour in the light and in the dark theme; text colours keep 4.5:1 on paper and sheet in both. */
const pair = (light: string, dark: string) => ({ value: { _light: light, _dark: dark } });

const SANS = "'Atkinson Hyperlegible Next Variable', sans-serif";

const LIGHT = {
  paper: '#FAF7F0',
  sheet: '#FFFFFF',
  ink: '#23272B',
  quiet: '#5B626A',
  rule: '#DDD6C8',
  accent: '#17565B',
  bar: '#D2C9B6',
  figure: '#4A4A4A',
};

const PRINTED: Record<`--chakra-colors-${string}`, string> = Object.fromEntries(
  Object.entries(LIGHT).map(([name, colour]) => [`--chakra-colors-${name}`, colour]),
);

const config = defineConfig({
  globalCss: {
    'html, body': { bg: 'paper', color: 'ink', fontFamily: 'body', fontSize: '15px', lineHeight: 1.5 },
    '*:focus-visible': { outline: '2px solid', outlineColor: 'accent', outlineOffset: '2px' },
    'td, th, .figures': { fontVariantNumeric: 'tabular-nums' },
    a: { color: 'accent' },
    // What is printed is light, whatever the screen is.
    'html.dark': { _print: PRINTED },
    // Within a text colour alone would not mark a link.
    'p a': { textDecoration: 'underline', textUnderlineOffset: '3px' },
  },
  theme: {
    tokens: {
      fonts: {
        heading: { value: "'Source Serif 4 Variable', serif" },
        body: { value: SANS },
        mono: { value: "'Atkinson Hyperlegible Mono Variable', monospace" },
      },
    },
    semanticTokens: {
      colors: {
        paper: pair(LIGHT.paper, '#1B1D1F'),
        sheet: pair(LIGHT.sheet, '#25282B'),
        ink: pair(LIGHT.ink, '#EAE6DD'),
        quiet: pair(LIGHT.quiet, '#AEB3B8'),
        rule: pair(LIGHT.rule, '#43474B'),
        accent: pair(LIGHT.accent, '#7CC6C6'),
        onAccent: pair('#FFFFFF', '#12292B'),
        bar: pair(LIGHT.bar, '#57534A'),
        figure: pair(LIGHT.figure, '#C9C4B8'),
        training: pair('#C08A1E', '#D9A441'),
        trainingInk: pair('#875C06', '#E2B259'),
        validation: pair('#5673A8', '#8FA9DC'),
        validationInk: pair('#43608F', '#A2B8E4'),
        heldout: pair('#6B2D5C', '#C98BB8'),
        heldoutInk: pair('#6B2D5C', '#D7A3C9'),
        holds: pair('#3B7438', '#86C280'),
        fails: pair('#A53A2B', '#EC9384'),
        unsure: pair('#8A6A12', '#DDBB5C'),
      },
    },
  },
});

/** The library's theme with the recipes of the components that are used, which are a small part of all. */
const library = defineConfig({
  preflight: true,
  cssVarsPrefix,
  cssVarsRoot,
  globalCss,
  theme: {
    breakpoints,
    keyframes,
    tokens,
    semanticTokens,
    recipes: { button: buttonRecipe, heading: headingRecipe },
    slotRecipes: { dialog: dialogSlotRecipe },
    textStyles,
    layerStyles,
    animationStyles,
  },
});

export const system = createSystem(defaultBaseConfig, library, config);
