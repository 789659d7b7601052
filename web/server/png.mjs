// A picture of its own process, which can be ended at any time: SVG at standard input, PNG at standard output.
import { readFileSync, writeSync } from 'node:fs';
import { Resvg } from '@resvg/resvg-js';

const zoom = Number(process.argv[2]);
const svg = readFileSync(0, 'utf8');
// Fonts of the system are looked for where there are letters left to be set; all others are outlines.
const font = { loadSystemFonts: svg.includes('<text') };
const png = new Resvg(svg, { fitTo: { mode: 'zoom', value: zoom }, font }).render().asPng();
for (let at = 0; at < png.length;) at += writeSync(1, png, at);
