// npm run check:office [FOLDER]: the demo's pages as slides, workbook and PDF, opened by LibreOffice and poppler and turned into pictures to look at.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ready, root, run } from './ready.mjs';

const folder = process.argv[2] ?? join(tmpdir(), 'bold-ruler-office');
for (const [program, pkg] of [
  ['soffice', 'libreoffice-impress, libreoffice-calc'],
  ['pdftoppm', 'poppler-utils'],
])
  if (spawnSync(program, ['--version']).error) {
    console.error(`check:office needs Debian’s ${pkg}: apt-get install ${pkg.replaceAll(',', '')}`);
    process.exit(1);
  }
await ready(['install', 'demo']);
mkdirSync(folder, { recursive: true });
const report = join(root, 'demo/files/pellwether.ruler.json');
let failed = 0;
for (const { id } of JSON.parse(readFileSync(report, 'utf8')).pages)
  for (const ending of ['pptx', 'xlsx', 'pdf']) {
    const file = join(folder, `${id}-${ending}.${ending}`);
    run('npx', ['bold-ruler', 'page', report, id, '-o', file]);
    const pdf = join(folder, `${id}-${ending}.pdf`);
    if (ending !== 'pdf')
      run('soffice', ['--headless', '--convert-to', 'pdf', '--outdir', folder, file], { stdio: 'ignore' });
    if (!existsSync(pdf)) {
      console.error(`${file}: LibreOffice could not open it`);
      failed += 1;
      continue;
    }
    run('pdftoppm', ['-r', '60', '-png', pdf, pdf.slice(0, -4)]);
    const pictures = readdirSync(folder).filter((name) => name.startsWith(`${id}-${ending}-`) && name.endsWith('.png'));
    console.log(`${id}.${ending}: ${pictures.length} pictures in ${folder}`);
    if (pictures.length === 0) failed += 1;
  }
process.exit(failed === 0 ? 0 : 1);
