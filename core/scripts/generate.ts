/** Writes what is generated: the expression parser, the loops of scans, the advance widths of the figure font, the JSON Schema of the report file. */
import { readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { fileURLToPath } from 'node:url';
import asc from 'assemblyscript/asc';
import opentype from 'opentype.js';
import peggy from 'peggy';
import { reportJsonSchema } from './jsonSchema';

const require = createRequire(import.meta.url);

/** The parser of measure expressions, from its grammar. */
export function grammarModule(): string {
  const grammar = readFileSync(new URL('../src/measure/grammar.peggy', import.meta.url), 'utf8');
  const made = peggy.generate(grammar, { output: 'source', format: 'es', allowedStartRules: ['start'] });
  // What is wrong is told by `readExpression`, from the place alone: the parser's own sentences, and what it expected, go.
  const source = made
    .replace(/\n {2}format\(sources\) \{[^]*?\n {2}\}\n/, '\n')
    .replace(
      /(\n {2}static buildMessage)\(expected, found\) \{[^]*?\n {2}\}\n/,
      "$1() {\n    return 'cannot be read';\n  }\n",
    )
    .replace(/(const peg\$e\d+ = )peg\$\w+Expectation\([^\n]*\);/g, '$10;');
  if (/DESCRIBE_EXPECTATION_FNS/.test(source)) throw new Error('the parser is generated otherwise than it was');
  return `// @ts-nocheck — generated from grammar.peggy by \`npm run generate\`\n${source}`;
}

/** The inner loops of scans and of reading as a WebAssembly program, from core/vector/. */
export async function vectorModule(): Promise<string> {
  const folder = fileURLToPath(new URL('../vector/', import.meta.url));
  const words = [
    'scan.ts',
    'reading.ts',
    '-o',
    'loops.wasm',
    '--baseDir',
    folder,
    '--optimizeLevel',
    '3',
    '--enable',
    'simd',
  ];
  let program: Uint8Array | null = null;
  const { error, stderr } = await asc.main([...words, '--noAssert', '--runtime', 'stub', '--importMemory'], {
    writeFile: (_, content) => void (program = content as Uint8Array),
  });
  if (error || !program) throw new Error(`core/vector/: ${String(error)}\n${stderr.toString()}`);
  const text = Buffer.from(program).toString('base64');
  return `// Generated from core/vector/ by \`npm run generate\`: a WebAssembly program.\nexport const PROGRAM: string =\n  '${text}';\n`;
}

const WEIGHTS = [400, 600] as const;
const SUBSETS = ['latin', 'latin-ext'] as const;

/** Advance widths of Archivo Narrow in thousandths of an em, by weight, from the font files that ship with the interface. */
export function widthsModule(): string {
  const tables = WEIGHTS.map((weight) => {
    const widths = new Map<number, number>();
    for (const subset of SUBSETS) {
      const path = require.resolve(`@fontsource/archivo-narrow/files/archivo-narrow-${subset}-${weight}-normal.woff`);
      const bytes = readFileSync(path);
      const font = opentype.parse(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length) as ArrayBuffer);
      for (let i = 0; i < font.glyphs.length; i++) {
        const glyph = font.glyphs.get(i);
        for (const code of glyph.unicodes) {
          if (!widths.has(code)) widths.set(code, Math.round((1000 * (glyph.advanceWidth ?? 0)) / font.unitsPerEm));
        }
      }
    }
    const entries = [...widths].sort((a, b) => a[0] - b[0]);
    return `  ${weight}: [\n${entries.map(([code, width]) => `    [${code}, ${width}],`).join('\n')}\n  ],`;
  });
  return [
    '// Generated from the font files of Archivo Narrow by `npm run generate`: [code point, advance width in 1/1000 em].',
    'export const WIDTHS: Record<400 | 600, readonly (readonly [number, number])[]> = {',
    ...tables,
    '};',
    '',
  ].join('\n');
}

if (process.argv[1]?.endsWith('generate.ts')) {
  writeFileSync(new URL('../src/measure/grammar.js', import.meta.url), grammarModule());
  writeFileSync(new URL('../src/vector/program.ts', import.meta.url), await vectorModule());
  writeFileSync(new URL('../src/scene/widths.ts', import.meta.url), widthsModule());
  writeFileSync(new URL('../../docs/report.schema.json', import.meta.url), reportJsonSchema());
  console.log(
    'core/src/measure/grammar.js, core/src/vector/program.ts, core/src/scene/widths.ts and docs/report.schema.json are written',
  );
}
