/** The inks of a figure. Every standing has a badge shape beside its ink. */
export const INK = '#16202B';
export const QUIET = '#5B6873';
export const HAIRLINE = '#C9CCC6';
export const AHEAD = '#147560';
export const BEHIND = '#C8452B';
export const LEVEL = '#66727F';

/** Warm greys for qualitative bands, the worst first and darkest, by number of bands. */
export const BAND_TINTS: Readonly<Record<number, readonly string[]>> = {
  1: ['#E6E3DB'],
  2: ['#D5D0C5', '#E9E6DF'],
  3: ['#C9C3B6', '#DAD5CB', '#EAE7E0'],
  4: ['#BDB6A7', '#CDC7BB', '#DCD8CE', '#ECE9E2'],
  5: ['#B1A999', '#C1BAAC', '#D0CABF', '#DED9D0', '#EDEAE4'],
};
