import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test, vi } from 'vitest';
import { watchFiles } from './watch';

test('what changes while it is being done is done again afterwards, never beside it', async () => {
  vi.spyOn(process.stderr, 'write').mockReturnValue(true);
  vi.spyOn(console, 'error').mockReturnValue();
  const folder = mkdtempSync(join(tmpdir(), 'bold-ruler-watch-'));
  const [file, written] = [join(folder, 'in.csv'), join(folder, 'out.csv')];
  writeFileSync(file, 'a');
  let at = 0;
  let most = 0;
  let runs = 0;
  void watchFiles([file], async () => {
    most = Math.max(most, ++at);
    runs += 1;
    const read = readFileSync(file, 'utf8');
    // The first reading takes until the second change has been seen and has settled.
    if (runs === 1) {
      writeFileSync(file, 'c');
      await new Promise((later) => setTimeout(later, 500));
    }
    writeFileSync(written, read);
    at -= 1;
    return [];
  });
  writeFileSync(file, 'b');
  await vi.waitFor(() => expect(readFileSync(written, 'utf8')).toBe('c'), { timeout: 240_000 });
  expect(most).toBe(1);
  vi.restoreAllMocks();
});
