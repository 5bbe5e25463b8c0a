import localFont from 'next/font/local';

// Letters of western European languages; what goes beyond them is in fonts.css. Its loader reads literals only.
// Fetched ahead, and not put in place of another once the page stands: nothing of it moves.
const sans = localFont({
  src: '../../node_modules/@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2',
  weight: '200 800',
  display: 'optional',
  adjustFontFallback: false,
  declarations: [
    {
      prop: 'unicode-range',
      value:
        'U+0000-00FF,U+0131,U+0152-0153,U+02BB-02BC,U+02C6,U+02DA,U+02DC,U+0304,U+0308,U+0329,U+2000-206F,U+20AC,U+2122,U+2191,U+2193,U+2212,U+2215,U+FEFF,U+FFFD',
    },
  ],
  variable: '--face-sans',
});
const serif = localFont({
  src: '../../node_modules/@fontsource-variable/literata/files/literata-latin-wght-normal.woff2',
  weight: '200 900',
  display: 'optional',
  adjustFontFallback: false,
  declarations: [
    {
      prop: 'unicode-range',
      value:
        'U+0000-00FF,U+0131,U+0152-0153,U+02BB-02BC,U+02C6,U+02DA,U+02DC,U+0304,U+0308,U+0329,U+2000-206F,U+20AC,U+2122,U+2191,U+2193,U+2212,U+2215,U+FEFF,U+FFFD',
    },
  ],
  variable: '--face-serif',
});

export const faces = `${sans.variable} ${serif.variable}`;
