// A picture of its own process, which can be ended at any time: SVG at standard input, PNG at standard output.
import { readFileSync, writeSync } from 'node:fs';
import { Resvg } from '@resvg/resvg-js';

const zoom = Number(process.argv[2]);
const png = new Resvg(readFileSync(0, 'utf8'), { fitTo: { mode: 'zoom', value: zoom } }).render().asPng();
for (let at = 0; at < png.length;) at += writeSync(1, png, at);
