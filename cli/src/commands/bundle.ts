import { Problem } from '@bold-ruler/core/problem';
import { bundleOf } from '../files';
import { STANDARD, writeWhole } from '../write';

export async function bundle(reportFile: string, options: { out: string; allow: string[] }) {
  if (options.out !== STANDARD && !options.out.toLowerCase().endsWith('.ruler.zip'))
    throw new Problem('usage', `“${options.out}” does not end in .ruler.zip`, undefined, 'give it that ending');
  writeWhole(options.out, await bundleOf(reportFile, options.allow));
}
