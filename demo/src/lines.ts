/** What is known of each product line beyond its name: a table that orders look up. */
export const LINES_HEADER = ['line', 'family', 'workshop'];

const LINES: readonly (readonly string[])[] = [
  ['Strings', 'Melody', 'Ashdown'],
  ['Woodwind', 'Melody', 'Corvane'],
  ['Brass', 'Melody', 'Corvane'],
  ['Percussion', 'Rhythm', 'Oller'],
  ['Keys', 'Rhythm', 'Ashdown'],
  ['Accessories', 'Beside', 'Oller'],
];

export const lineRows = (): readonly (readonly string[])[] => LINES;
